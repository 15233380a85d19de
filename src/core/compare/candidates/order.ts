import { writerById } from '../../formats/write';
import type { Candidate } from './candidate';

/** Codecs by how long encoding takes, the longest last (measured; see the benchmarks). Others go first: samples as they are. */
const SLOWER = ['ima-adpcm', 'flac', 'opus', 'vorbis', 'mp3', 'aac'];

/** In the order in which they are best made: the first results are there soon. Alike ones stay as they are. */
export function quickestFirst<Tried extends { candidate: Candidate }>(
  all: readonly Tried[],
): Tried[] {
  const place = ({ candidate }: Tried) => SLOWER.indexOf(writerById(candidate.writer).codec);
  return [...all].sort((a, b) => place(a) - place(b));
}
