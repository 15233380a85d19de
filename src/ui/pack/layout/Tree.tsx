import { FileText, Folder, Image as Picture, Music } from 'lucide-react';
import type { OutlinedFile, PackedFile } from '@/wire';
import { size } from '../../shared/format';

/** What lies where in a pack: folders, and in them files with their sizes. */
export function Tree({
  files,
  packId,
}: {
  files: readonly (OutlinedFile | PackedFile)[];
  /** Of a finished pack, whose files can be opened. */
  packId?: number;
}) {
  let folder = '';
  return (
    <section aria-label="What lies where" className="border-base-300 bg-base-100 border">
      <h3 className="border-base-300 border-b px-4 py-2 font-serif text-lg">What lies where</h3>
      <ul className="max-h-[26rem] overflow-y-auto py-1" tabIndex={0} aria-label="Files">
        {files.map((file) => {
          const at = file.path.lastIndexOf('/');
          const own = file.path.slice(0, Math.max(0, at));
          const isNew = own !== folder;
          folder = own;
          return [
            isNew && own !== '' && (
              <li key={`${own}/`} className="text-soft flex items-center gap-2 px-4 py-0.5">
                <Folder size={14} aria-hidden /> {own}/
              </li>
            ),
            <File key={file.path} file={file} isInside={own !== ''} packId={packId} />,
          ];
        })}
      </ul>
    </section>
  );
}

const signs = { sound: Music, text: FileText, icon: Picture } as const;

function File({
  file,
  isInside,
  packId,
}: {
  file: OutlinedFile | PackedFile;
  isInside: boolean;
  packId: number | undefined;
}) {
  const Sign = signs[file.kind];
  const name = file.path.split('/').at(-1)!;
  return (
    <li className={`flex items-center gap-2 py-0.5 pr-4 ${isInside ? 'pl-9' : 'pl-4'}`}>
      <Sign size={14} aria-hidden className="text-soft shrink-0" />
      <span className="min-w-0 flex-1 break-all">
        {packId === undefined ? (
          name
        ) : (
          <a
            className="hover:underline"
            href={`/api/packs/${packId}/files/${file.path.split('/').map(encodeURIComponent).join('/')}`}
            target="_blank"
            rel="noreferrer"
          >
            {name}
          </a>
        )}
      </span>
      <span className={file.sha256 === null ? 'text-warning text-xs' : 'text-soft text-xs'}>
        {file.sha256 === null ? 'to be built' : size(file.bytes)}
      </span>
    </li>
  );
}
