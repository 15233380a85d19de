import { kilohertz } from '../../tradeNames';

/** One codec setting under comparison. What is left out stays as the source has it. */
export interface Candidate {
  writer: string;
  settings: object;
  rateHz?: number | undefined;
  /** Mixed to one channel, or two of them. */
  channels?: 'mix' | 'stereo' | undefined;
}

/** With what people call its format and settings, how it is written, and what it is. */
export interface NamedCandidate extends Candidate {
  name: string;
  text: string;
  format: string;
  codec: string;
}

/** Without what people call it. */
export function plainCandidate({ writer, settings, rateHz, channels }: Candidate): Candidate {
  return { writer, settings, rateHz, channels };
}

/** Tells candidates apart: the same text, the same candidate. */
export function candidateKey({ writer, settings, rateHz, channels }: Candidate): string {
  const sorted = Object.entries(settings).sort(([a], [b]) => (a < b ? -1 : 1));
  return JSON.stringify([writer, Object.fromEntries(sorted), rateHz ?? null, channels ?? null]);
}

/** A candidate for people: "Ogg Vorbis, quality 3, 22.05 kHz, mono". */
export function wholeName({ name, rateHz, channels }: NamedCandidate): string {
  return [
    name,
    ...(rateHz === undefined ? [] : [kilohertz(rateHz)]),
    ...(channels === undefined ? [] : [channels === 'mix' ? 'mono' : 'stereo']),
  ].join(', ');
}
