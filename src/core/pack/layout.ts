import { freeName } from './names';

/** A file that is to have a place in a pack. */
export interface PlacedFile {
  briefId: string;
  soundName: string;
  extension: string;
}

/**
 * The name of each file in the folder of its brief, in their order: those that meet are numbered. Files of
 * other endings do not meet, so that the encodings of one sound keep one name.
 */
export function fileNames(files: readonly PlacedFile[]): string[] {
  const taken = new Map<string, Set<string>>();
  return files.map(({ briefId, soundName, extension }) => {
    const names = taken.get(briefId) ?? new Set<string>();
    taken.set(briefId, names);
    return freeName(soundName, extension, names);
  });
}

/** Where a file of that name lies in a pack. */
export function pathInPack(briefId: string, name: string): string {
  return `${briefId}/${name}`;
}
