import type { ErrorFacts } from '@/core/errors';
import type { Rehearsed } from '@/core/host/rehearse';

/** A pack as the page has it: one of the project, or what somebody has dropped. */
export type Brought =
  | {
      kind: 'address';
      name: string;
      /** Answers the zip. */
      address: string;
      /** The folder of it that the host is to look at; empty for all of it. */
      folder: string;
    }
  | { kind: 'zip'; name: string; zip: Blob }
  | { kind: 'folder'; name: string; files: readonly { path: string; file: Blob }[] };

/** What came of it, as far as it can leave the worker. */
export type LoadedPack = Omit<Rehearsed, 'open'>;

/** A whole sound. */
export interface DecodedSound {
  rateHz: number;
  channels: Float32Array<ArrayBuffer>[];
}

/** What the worker is asked, … */
export type HostQuestion =
  { does: 'load'; hostId: string; brought: Brought } | { does: 'decode'; file: string };

/** … and what it answers, each with the number of its question. */
export type HostAnswer =
  { id: number; value: LoadedPack | DecodedSound } | { id: number; error: ErrorFacts };
