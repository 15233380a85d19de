/** Something that cannot stay as the source has it, in parts, so that many of a kind make one line. */
export interface Change {
  kind: 'rate' | 'channels' | 'depth' | 'bit-rate';
  from: string;
  to: string;
  /** Why, for this pair alone. */
  why: string;
  /** The format that cannot hold it. */
  format: string;
}

const fromTo = (from: string, to: string) => `from ${from} to ${to}`;

/** How each kind of change is said: what is done, and for one pair how. */
const phrases: Record<
  Change['kind'],
  { verb: string; pair: (from: string, to: string) => string }
> = {
  rate: { verb: 'resampled', pair: (from, to) => fromTo(from.replace(/ Hz$/, ''), to) },
  channels: { verb: 'mixed', pair: fromTo },
  depth: { verb: 'stored', pair: (from, to) => `as ${to} in place of ${from}` },
  'bit-rate': { verb: 'encoded', pair: (from, to) => `at ${to} in place of ${from}` },
};

/** What is done, to stand behind "11 files", and how: "resampled", "from 44,100 to 48,000 Hz". */
export function changeWords({ kind, from, to }: Change): { verb: string; pair: string } {
  const { verb, pair } = phrases[kind];
  return { verb: kind === 'channels' && from === 'mono' ? 'copied' : verb, pair: pair(from, to) };
}

/** A change as a sentence of its own. */
export function changeSentence(change: Change): string {
  const { verb, pair } = changeWords(change);
  return `${verb[0]!.toUpperCase()}${verb.slice(1)} ${pair}: ${change.why}.`;
}
