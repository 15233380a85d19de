import type { NameDemands } from '../brief/schema';
import { diskKey } from './diskKey';
import { cleaned } from './naming';
import { safeFileName } from './names';
import { wrong, type PackTrouble, type PartTrouble } from './troubles';

/** Most bytes of one part of a path, and of all of it, on every common disk and in a zip. */
const MOST_PART_BYTES = 255;
const MOST_PATH_BYTES = 1_000;
/** Folders in each other; nobody finds anything behind so many. */
const MOST_PARTS = 24;

/** What is wrong with a path, wherever it came from; null for one that leads to its place everywhere. */
export function pathProblem(path: string): string | null {
  const parts = path.split('/');
  if (path === '' || parts.includes('')) return 'A part of it has no name.';
  if (parts.length > MOST_PARTS) return `It has more than ${MOST_PARTS - 1} folders in each other.`;
  if (path.includes('\\') || /^[a-z]:/i.test(path))
    return 'Its parts have to be told apart by plain slashes.';
  if (parts.includes('..') || parts.includes('.')) return 'It leads out of its folder.';
  if (isLonger(path, MOST_PATH_BYTES)) return 'It is too long.';
  const bad = parts.find((part) => safeFileName(part) !== part || isLonger(part, MOST_PART_BYTES));
  return bad === undefined ? null : `“${bad}” is no name that every system takes.`;
}

/** What one unit of a JavaScript string comes to in UTF-8 at most. */
const MOST_UNIT_BYTES = 3;
const encoder = new TextEncoder();
const isLonger = (text: string, mostBytes: number): boolean =>
  text.length * MOST_UNIT_BYTES > mostBytes && encoder.encode(text).length > mostBytes;

/** What is wrong with a path by what its destination demands of names; null for nothing. */
export function namingProblem(path: string, names: NameDemands | undefined): string | null {
  if (!names) return null;
  const parts = path.split('/');
  const file = parts.pop()!;
  const dot = file.lastIndexOf('.');
  const base = dot > 0 ? file.slice(0, dot) : file;
  for (const part of [...parts, base]) {
    // What would be cleaned is not clean.
    if (cleaned(part, names) !== part)
      return `“${part}” is not spelled as the destination demands.`;
  }
  const { longest = 255 } = names;
  return [...file].length > longest ? `“${file}” is longer than ${longest} characters.` : null;
}

interface Placed {
  path: string;
  briefId: string;
  soundId?: number | undefined;
}

/** Every two files of a pack that would lie in the same place, on one disk or another. */
export function meetings(files: readonly Placed[]): PackTrouble[] {
  const byKey = new Map<string, Placed>();
  const folders = new Map<string, Placed>();
  const troubles: PackTrouble[] = [];
  for (const file of files) {
    const key = diskKey(file.path);
    const other = byKey.get(key);
    if (other) troubles.push(meeting(file, other));
    else byKey.set(key, file);
    for (let at = key.lastIndexOf('/'); at > 0; at = key.lastIndexOf('/', at - 1)) {
      const folder = key.slice(0, at);
      // With it, those above it are known.
      if (folders.has(folder)) break;
      folders.set(folder, file);
    }
  }
  for (const [key, file] of byKey) {
    const inside = folders.get(key);
    if (inside) troubles.push(isFolder(file, inside));
  }
  return troubles;
}

function meeting(file: Placed, other: Placed): PackTrouble {
  const isSame = file.path === other.path;
  const message = isSame
    ? `Two files would be “${file.path}”.`
    : `“${file.path}” and “${other.path}” would be one file on many disks.`;
  return { ...placedTrouble(file), message };
}

function isFolder(file: Placed, inside: Placed): PackTrouble {
  const message = `“${file.path}” is a file, and a folder for “${inside.path}”.`;
  return { ...placedTrouble(file), message };
}

function placedTrouble({ path, briefId, soundId }: Placed) {
  const { weight, about, hint }: PartTrouble = wrong('name', '', 'Give one of them another name.');
  return { weight, about, hint, briefId, path, ...(soundId !== undefined && { soundId }) };
}
