import { writers } from '../../formats';
import { writerById } from '../../formats/write';
import { BijouError } from '../../errors';
import type { Candidate } from './candidate';
import { parseCandidate } from './text';

/** Candidates that are compared together. */
export interface CandidateSet {
  id: string;
  name: string;
  candidates: readonly Candidate[];
}

const parsed = (...texts: string[]) => texts.map(parseCandidate);

/** Every lossy codec at low, middle and high, and what loses nothing or little. */
const usual: CandidateSet = {
  id: 'usual',
  name: 'All codecs at their usual three settings',
  candidates: parsed(
    ...['mp3@96', 'mp3@128', 'mp3@192'],
    ...['ogg/vorbis@q1', 'ogg/vorbis@q3', 'ogg/vorbis@q6'],
    ...['ogg/opus@64', 'ogg/opus@96', 'ogg/opus@160'],
    ...['m4a/aac@96', 'm4a/aac@128', 'm4a/aac@192'],
    ...['wav/pcm@8', 'wav/pcm@16', 'wav/pcm@24'],
    ...['wav/ima-adpcm', 'flac'],
  ),
};

/** What is quick to decode, for many voices on slow machines. */
const light: CandidateSet = {
  id: 'light',
  name: 'What is quick to decode',
  candidates: parsed('wav/pcm@8', 'wav/pcm@16', 'wav/ima-adpcm', 'flac', 'mp3@64', 'mp3@128'),
};

/** Every step of one dial of one codec. */
const fine: CandidateSet[] = writers.flatMap((kind) =>
  kind.dials.map((dial) => ({
    id: `fine-${kind.id}${kind.dials.length > 1 ? `-${dial.name}` : ''}`,
    name: `${kind.name}, every ${dial.name === 'kbps' ? 'bit rate' : dial.name}`,
    candidates: dial.values.map((value) => ({
      writer: kind.id,
      settings: { [dial.name]: value },
    })),
  })),
);

/** Sets that are always there. */
export const readySets: readonly CandidateSet[] = [usual, light, ...fine];

/** @throws wrong-call for a name that no set has */
export function setById(id: string, own: readonly CandidateSet[] = []): CandidateSet {
  const sets = [...readySets, ...own];
  const found = sets.find((set) => set.id === id);
  if (found) return found;
  throw new BijouError(
    'wrong-call',
    `There is no set of candidates "${id}".`,
    `There are ${sets.map((set) => set.id).join(', ')}.`,
  );
}

/** So many steps of the dial to both sides. */
const AROUND = 3;

/** Fine steps of one codec around a candidate, itself among them; alone where it has nothing to set. */
export function stepsAround(candidate: Candidate): Candidate[] {
  const kind = writerById(candidate.writer);
  const own = candidate.settings as Record<string, unknown>;
  const dial = kind.dials.find(({ name }) => own[name] !== undefined) ?? kind.dials[0];
  if (!dial) return [candidate];
  const value = Number(own[dial.name] ?? dial.usual);
  const all = [...new Set([...dial.values, value])].sort((a, b) => a - b);
  const at = all.indexOf(value);
  return all
    .slice(Math.max(0, at - AROUND), at + AROUND + 1)
    .map((step) => ({ ...candidate, settings: { ...own, [dial.name]: step } }));
}
