import type { StageChoices } from '../host/filter/choices';
import type { LoopParts } from '../loop/parts';
import type { LoopPiece } from '../loop/parts';
import type { SheetLine } from '../join/plan';
import type { Loop, Tags } from '../marks';
import type { Tempo } from '../tempo';
import type { Call, PathVariant } from './calls/calls';

/** One sound's file in a pack, with everything that manifests can say of it. */
export interface PackedSound {
  /** In its own part of the pack, with plain slashes. */
  path: string;
  briefId: string;
  briefVersion: number;
  fileId: string;
  sha256: string;
  bytes: number;
  soundId: number;
  name: string;
  group: string;
  labels: readonly string[];
  language: string | null;
  container: string;
  codec: string;
  mimeType: string;
  sampleRateHz: number;
  channels: number;
  bitDepth: number | null;
  frames: number;
  seconds: number;
  loop: Loop | null;
  loopParts: Partial<LoopParts> | null;
  tags: Tags;
  /** The file that it was made of. */
  source: { name: string; sha256: string; tags: Tags };
  tempo: Tempo | null;
  /** What it is of the loop of another sound, where it was cut out of one. */
  piece: { of: string; ofId: number; piece: LoopPiece; repeatCarriesTail: boolean } | null;
  /** Where the sounds lie that it was joined of. */
  sheet: readonly SheetLine[] | null;
}

/** Everything that the texts of one part of a pack are made of. The same build gives the same data. */
export interface ManifestData {
  title: string;
  project: string;
  brief: { id: string; version: number; title: string };
  /** What people have said for the fields of the layout. */
  fields: Readonly<Record<string, string | number>>;
  sounds: readonly PackedSound[];
  calls: readonly Call<PathVariant>[];
  /** Where the icon lies; null where there is none. */
  icon: string | null;
  notes: readonly string[];
  /** What was set on the filter stage; null while nobody has. */
  stage: StageChoices | null;
}
