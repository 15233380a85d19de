import type { ByteSource } from '../bytes/source';
import { memorySource } from '../bytes/source';
import { leftOutByName } from '../collect/arrivals';

/** One file of a pack as somebody brings it: nothing is read before it is asked for. */
export interface FoundFile {
  /** As it stands in the pack, whatever it says. */
  path: string;
  bytes: number;
  /** Its bytes. @throws damaged-sound, too-large */
  open(): Promise<ByteSource>;
}

/** A pack as it is brought to a host. */
export interface FoundPack {
  /** What people call it: the name of its zip or folder. */
  name: string;
  form: 'zip' | 'folder';
  files: readonly FoundFile[];
}

/** A file that is held in memory. */
export function heldFile(path: string, bytes: Uint8Array): FoundFile {
  return { path, bytes: bytes.length, open: async () => memorySource(bytes) };
}

/** What lies in one folder of a pack, as if it were all; all of it where no folder is named. */
export function inFolder(pack: FoundPack, folder: string): FoundPack {
  if (folder === '') return pack;
  const files = pack.files
    .filter(({ path }) => path.startsWith(`${folder}/`))
    .map((file) => ({ ...file, path: file.path.slice(folder.length + 1) }));
  return { ...pack, files };
}

/** A file by its path. */
export function fileAt({ files }: FoundPack, path: string): FoundFile | undefined {
  return files.find((file) => file.path === path);
}

/** Whether an operating system has left it there: nobody means it. */
export function isLitter(path: string): boolean {
  return leftOutByName(path) !== null;
}
