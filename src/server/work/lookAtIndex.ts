import { allowedCharacters } from '@/core/pack/characters';
import { readIndex, type IndexReport } from '@/core/pack/calls/readIndex';
import type { IndexTask } from './tasks';

/** Looks at an index that was made elsewhere. */
export async function lookAtIndex({ text, there, characters }: IndexTask): Promise<IndexReport> {
  return readIndex(text, there, allowedCharacters(characters));
}
