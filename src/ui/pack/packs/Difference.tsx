import type { PackChanges } from '@/core/pack/changes';
import { plural, size } from '../../shared/format';
import { MiddleCut } from '../../shared/MiddleCut';

const MOST_SHOWN = 200;

/** What is other between two packs, file by file. */
export function Difference({
  changes: { added, changed, moved, removed, same },
}: {
  changes: PackChanges;
}) {
  const lines = [
    ...changed.map(({ path, bytes }) => ({ sign: 'changed', path, text: size(bytes) })),
    ...added.map(({ path, bytes }) => ({ sign: 'new', path, text: size(bytes) })),
    ...moved.map(({ path, from }) => ({ sign: 'moved', path, text: `from ${from}` })),
    ...removed.map(({ path }) => ({ sign: 'gone', path, text: '' })),
  ];
  return (
    <div className="mt-2">
      <ul className="max-h-56 overflow-y-auto" tabIndex={0} aria-label="What is other">
        {lines.slice(0, MOST_SHOWN).map(({ sign, path, text }) => (
          <li
            key={`${sign} ${path}`}
            className="border-base-300 flex items-baseline gap-3 border-b py-0.5 last:border-0"
          >
            <span className="text-soft w-16 shrink-0 text-xs">{sign}</span>
            <span className="min-w-0 flex-1">
              <MiddleCut text={path} />
            </span>
            <span className="text-soft text-xs">{text}</span>
          </li>
        ))}
      </ul>
      <p className="text-soft mt-1 text-xs">
        {lines.length > MOST_SHOWN && `and ${lines.length - MOST_SHOWN} more; `}
        {plural(same, 'file')} the same to the bit.
      </p>
    </div>
  );
}
