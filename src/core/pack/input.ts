import type { Brief } from '../brief/schema';
import { groupBy } from '../group';
import type { PackedSound } from './data';
import type { PackSettings } from './settings';

/** One file that a sound is to give to a destination. */
export interface PartFile {
  soundId: number;
  name: string;
  group: string;
  seconds: number;
  fileId: string;
  /** Where it lies: in each slot that it fills, else under its own name. */
  paths: readonly string[];
  /** Slots that it is meant for, those included that have just its name. */
  slots: readonly string[];
  /** The finished file; a reason where it is not there as it would be made now, and whether building would help. */
  made: Omit<PackedSound, 'path'> | { reason: string; isBuildable: boolean };
}

/** What one destination takes, and what was decided about its pack. */
export interface PartInput {
  brief: Brief;
  project: string;
  settings: PackSettings;
  files: readonly PartFile[];
  /** The icon that was given, as it was given. */
  icon: Uint8Array | null;
  /** The bytes of finished files, for manifests that hold them. */
  bytesOf: (sha256: string) => Uint8Array;
}

/** One file of a pack. */
export interface PackEntry {
  path: string;
  kind: 'sound' | 'text' | 'icon';
  briefId: string;
  bytes: number;
  /** null for what is written here. */
  sha256: string | null;
  content: Uint8Array | null;
  soundId: number | null;
}

/** Which sound a file is of and where it lies, whether it is there or not. */
export type PlacedFile = Omit<PartFile, 'made'>;

/** Each sound once, with the paths and the slots of all of its files. */
export function slottedSounds(files: readonly PlacedFile[]): Omit<PlacedFile, 'fileId'>[] {
  return [...groupBy(files, ({ soundId }) => soundId).values()].map((own) => {
    const [{ soundId, name, group, seconds, paths, slots }, ...others] = own as [PlacedFile];
    if (others.length === 0) return { soundId, name, group, seconds, paths, slots };
    return {
      ...{ soundId, name, group, seconds },
      paths: own.flatMap((file) => file.paths),
      slots: [...new Set(own.flatMap((file) => file.slots))],
    };
  });
}
