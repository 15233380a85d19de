import type { Brief } from '@/core/brief/schema';
import type { PackedSound } from '@/core/pack/data';
import type { PartFile, PartInput } from '@/core/pack/input';
import type { Sound } from '@/wire';

/** What manifests can say of a finished file; the rest is said of its sound, of its place, and of others. */
export type ToldFile = Omit<PackedSound, 'path' | 'soundId' | 'piece' | keyof Placed | keyof Said>;
/** For which file of which destination it was made. */
export type Placed = Pick<PackedSound, 'briefId' | 'briefVersion' | 'fileId' | 'sha256'>;

/** What is said of the sound itself, whatever was made of it. */
type Said = Pick<Sound, 'name' | 'group' | 'labels' | 'language' | 'tempo'>;
export type ToldSound = Said & Pick<Sound, 'id'>;

/** A finished file as it is stored. */
interface StoredMade {
  sha256: string;
  /** A `ToldFile` as JSON: it is read where a pack is laid out, and nowhere where files are only counted. */
  told: string;
  sound: ToldSound;
  piece: PackedSound['piece'];
}

/** A file for a pack as it is stored. */
export interface StoredPartFile extends Omit<PartFile, 'made'> {
  made: StoredMade | Extract<PartFile['made'], { reason: string }>;
}

/** What one destination takes, without what is read where it is laid out. */
export interface OutlineInput extends Omit<PartInput, 'icon' | 'bytesOf' | 'files'> {
  files: readonly StoredPartFile[];
}

/** Everything that manifests can say of a finished file of a sound. */
export function packedSound(
  told: ToldFile,
  placed: Placed,
  { id, name, group, labels, language, tempo }: ToldSound,
  piece: PackedSound['piece'],
): Omit<PackedSound, 'path'> {
  // What is told was read for this alone; a copy of ten thousand takes longer than all else.
  return Object.assign(told, placed, { soundId: id, name, group, labels, language, tempo, piece });
}

/** With everything that manifests can say of it. */
export function readPartFile(
  { made, ...file }: StoredPartFile,
  { id: briefId, version: briefVersion }: Pick<Brief, 'id' | 'version'>,
): PartFile {
  if ('reason' in made) return { ...file, made };
  const { told, sound, piece, sha256 } = made;
  const placed = { briefId, briefVersion, fileId: file.fileId, sha256 };
  return { ...file, made: packedSound(JSON.parse(told) as ToldFile, placed, sound, piece) };
}
