import type { Word } from '../words';

/** Why a file that came in is not made a sound of, without being a failure. */
export type LeftOutReason =
  | 'hidden'
  | 'resource-fork'
  | 'not-sound'
  | 'link'
  | 'unsafe-path'
  | 'encrypted'
  | 'nested-archive'
  | 'empty-archive'
  | 'kept-old';

/** The reasons in words, by number of files: "12 hidden files". */
export const leftOutNames: Record<LeftOutReason, { one: Word; why: string }> = {
  hidden: {
    one: 'hidden file',
    why: 'Systems keep notes of their own there.',
  },
  'resource-fork': {
    one: 'resource fork',
    why: 'A file system’s own notes, without sound.',
  },
  'not-sound': {
    one: 'file that is no sound',
    why: 'Neither name nor contents say sound.',
  },
  link: {
    one: 'link',
    why: 'A link in an archive could point anywhere.',
  },
  'unsafe-path': {
    one: 'entry that points out of its archive',
    why: 'A name with “..”, a drive or a leading slash could land anywhere.',
  },
  encrypted: {
    one: 'encrypted entry',
    why: 'Unpack the archive with its password and bring the files in.',
  },
  'nested-archive': {
    one: 'archive inside an archive',
    why: 'Only one level is unpacked; bring it in by itself.',
  },
  'empty-archive': {
    one: 'empty archive',
    why: 'There is no file in it.',
  },
  'kept-old': {
    one: 'changed file that was not wanted',
    why: 'The sounds that were here were kept as they are.',
  },
};

const systemFiles = new Set(['thumbs.db', 'desktop.ini', 'icon\r']);

/** Files that nobody means to bring in, told by where they are and what they are called. */
export function leftOutByName(path: string): LeftOutReason | null {
  const parts = path.split('/');
  const name = parts.at(-1) ?? '';
  if (parts.includes('__MACOSX') || name.startsWith('._')) return 'resource-fork';
  const isHidden = parts.some((part) => part.startsWith('.') && part !== '.' && part !== '..');
  return isHidden || systemFiles.has(name.toLowerCase()) ? 'hidden' : null;
}

/** Most characters of a path that are kept. */
const MOST_PATH = 400;
const MOST_DEPTH = 12;

/**
 * A path from outside with plain slashes and without empty parts; null where it leaves its folder.
 * It is only ever shown and split into groups, never opened.
 */
export function safePath(path: string): string | null {
  // What cannot be seen goes first: without it, something harmless may be a "..".
  const seen = path.normalize('NFC').replace(/[\p{Cc}\p{Cf}\p{Cs}\u2028\u2029]/gu, '');
  const plain = seen.replaceAll('\\', '/');
  if (/^\/|^[a-z]:/i.test(plain)) return null;
  const parts = plain.split('/').filter((part) => part !== '' && part !== '.');
  if (parts.includes('..') || parts.length === 0) return null;
  return parts.slice(-MOST_DEPTH).join('/').slice(-MOST_PATH).replace(/^\//, '');
}

/** The folder and the file's own name of a safe path. */
export function splitPath(path: string): { folder: string; fileName: string } {
  const slash = path.lastIndexOf('/');
  return { folder: path.slice(0, Math.max(0, slash)), fileName: path.slice(slash + 1) };
}

/** The folder that an archive stands for: its own name, unless its only folder says the same. */
export function pathInArchive(archivePath: string, entryPath: string): string {
  const { folder, fileName } = splitPath(archivePath);
  const name = fileName.replace(/\.zip$/i, '') || 'archive';
  const inner = entryPath.startsWith(`${name}/`) ? entryPath.slice(name.length + 1) : entryPath;
  return [folder, name, inner].filter(Boolean).join('/');
}
