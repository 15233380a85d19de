import type * as yup from 'yup';
import type { TextId } from '../../brief/layout';
import type { ManifestData } from '../data';

/** One kind of text that Bijou writes about a pack, with what it says. */
export interface ManifestKind<Options extends object = object> {
  id: string;
  title: string;
  /** What it is for, in a sentence. */
  about: string;
  /** The kind of text that it is. */
  is: TextId;
  /** Where it lies unless a layout says otherwise. */
  path: string;
  /** Everything that it says, by name. */
  fields: Readonly<Record<string, string>>;
  /** What a layout may choose; nothing where it is left out. */
  options?: yup.Schema<Options>;
  /** Whether it holds bytes of the files, which are then read. */
  needsBytes?(options: Options): boolean;
  /** `bytesOf` gives the file of a sound where they are needed. */
  text(data: ManifestData, options: Options, bytesOf: (sha256: string) => Uint8Array): string;
}

/** Keeps what a kind's options are, for the list of all kinds. */
export function manifest<Options extends object>(kind: ManifestKind<Options>): ManifestKind {
  return kind as unknown as ManifestKind;
}
