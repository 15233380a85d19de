import type { BuildDetails, BuiltFile } from '@/wire';
import { plural, size } from '../../shared/format';
import { MiddleCut } from '../../shared/MiddleCut';

/** What is other in a build than in another one. */
export function Changes({ build, beside }: { build: BuildDetails; beside: BuildDetails }) {
  const before = new Map(beside.outputs.map((file) => [keyOf(file), file]));
  const after = new Map(build.outputs.map((file) => [keyOf(file), file]));
  const added = build.outputs.filter((file) => !before.has(keyOf(file)));
  const gone = beside.outputs.filter((file) => !after.has(keyOf(file)));
  const both = build.outputs.flatMap((file) => {
    const old = before.get(keyOf(file));
    return old ? [{ file, old }] : [];
  });
  const isOther = ({ file, old }: { file: BuiltFile; old: BuiltFile }) =>
    file.sha256 !== old.sha256 || file.path !== old.path;
  const changed = both.filter(isOther);
  const line = (file: BuiltFile, sign: string, text: string) => (
    <li
      key={`${sign} ${keyOf(file)}`}
      className="border-base-300 flex items-baseline gap-3 border-b px-3 py-1 last:border-0"
    >
      <span className="text-soft w-16 shrink-0 text-xs">{sign}</span>
      <span className="min-w-0 flex-1">
        <MiddleCut text={file.path} />
      </span>
      <span className="tabular-nums">{text}</span>
    </li>
  );
  return (
    <section aria-label="What changed" className="border-base-300 bg-base-100 border">
      <p className="border-base-300 border-b px-3 py-2">
        Since build {beside.id}: {plural(changed.length, 'changed file')}, {added.length} new,{' '}
        {gone.length} no longer in it; {plural(both.length - changed.length, 'file')} the same to
        the byte.
      </p>
      <ul>
        {changed.map(({ file, old }) =>
          line(
            file,
            file.sha256 === old.sha256 ? 'renamed' : 'changed',
            file.sha256 === old.sha256
              ? `from ${old.path}`
              : `${bytesText(old)} → ${bytesText(file)}`,
          ),
        )}
        {added.map((file) => line(file, 'new', bytesText(file)))}
        {gone.map((file) => line(file, 'gone', bytesText(file)))}
      </ul>
    </section>
  );
}

function keyOf({ soundId, briefId, fileId }: BuiltFile): string {
  return `${soundId} ${briefId} ${fileId}`;
}

function bytesText({ bytes }: BuiltFile): string {
  return bytes === null ? 'not built' : size(bytes);
}
