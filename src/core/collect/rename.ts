import { soundName } from '../pack/names';
import { kilohertz, layoutName } from '../tradeNames';

/** What a pattern can speak of. */
export interface Renamed {
  id: number;
  name: string;
  fileName: string;
  group: string;
  facts: { sampleRateHz: number; channels: number; container: string; codec: string } | null;
}

export interface NameChange {
  id: number;
  before: string;
  after: string;
  /** Why this name may be a nuisance: another sound has it, or has it in other letters. */
  problem: string | null;
}

type Fill = (sound: Renamed, number: number) => string;

/** Every word that may stand between braces, with what it becomes. */
export const renameWords: Record<string, { says: string; fill: Fill }> = {
  name: { says: 'the name as it is', fill: ({ name }) => name },
  file: { says: 'the file it came in as', fill: ({ fileName }) => withoutEnding(fileName) },
  group: { says: 'the innermost group', fill: ({ group }) => group.split('/').at(-1) ?? '' },
  n: {
    says: 'a number, counting up among equal names; n:3 for 001',
    fill: (_, number) => String(number),
  },
  rate: {
    says: 'the sample rate',
    fill: ({ facts }) => (facts ? kilohertz(facts.sampleRateHz).replace(' ', '') : ''),
  },
  channels: {
    says: 'mono, stereo …',
    fill: ({ facts }) => (facts ? layoutName(facts.channels) : ''),
  },
  format: {
    says: 'the format, as files end in it',
    fill: ({ facts }) => (facts ? formatWord(facts.container) : ''),
  },
  codec: { says: 'the codec', fill: ({ facts }) => facts?.codec ?? '' },
};

const WORD = /\{(\w+)(?::(\d))?\}/g;

/** Words between braces that mean nothing. */
export function unknownWords(pattern: string): string[] {
  return [...pattern.matchAll(WORD)].map(([, word]) => word!).filter((word) => !renameWords[word]);
}

/**
 * New names for sounds in their order: `pattern` filled for each, then `find` replaced by `put`.
 * `others` are the names of the project's sounds that keep theirs.
 */
export function renamed(
  sounds: readonly Renamed[],
  { pattern, find = '', put = '', from = 1 }: RenameRule,
  others: readonly string[] = [],
): NameChange[] {
  const fill = filling(pattern, from);
  const names = sounds.map((sound) => {
    const name = fill(sound);
    return soundName(find === '' ? name : name.replaceAll(find, () => put));
  });
  const uses = new Map<string, Set<string>>();
  const counts = new Map<string, number>();
  for (const name of [...names, ...others]) {
    const key = name.toLowerCase();
    uses.set(key, (uses.get(key) ?? new Set()).add(name));
    counts.set(name, (counts.get(name) ?? 0) + 1);
  }
  return sounds.map(({ id, name: before }, i) => {
    const after = names[i]!;
    const isTaken = (counts.get(after) ?? 0) > 1;
    const isCaseTwin = (uses.get(after.toLowerCase())?.size ?? 0) > 1;
    const problem = isTaken
      ? 'Another sound has this name.'
      : isCaseTwin
        ? 'Differs from another name only by upper and lower case.'
        : null;
    return { id, before, after, problem };
  });
}

/** Fills a pattern for one sound after the other: names that differ only in their number are counted up. */
export function filling(pattern: string, from = 1): (sound: Renamed) => string {
  const numbers = new Map<string, number>();
  return (sound) => {
    const alike = filled(pattern, sound, 0);
    const number = numbers.get(alike) ?? from;
    numbers.set(alike, number + 1);
    return filled(pattern, sound, number);
  };
}

function formatWord(container: string): string {
  return { mp4: 'm4a', adts: 'aac', matroska: 'mka' }[container] ?? container;
}

function filled(pattern: string, sound: Renamed, number: number): string {
  return pattern.replace(WORD, (whole, word: string, digits?: string) => {
    const fill = renameWords[word]?.fill;
    return fill ? fill(sound, number).padStart(Number(digits ?? 0), '0') : whole;
  });
}

export interface RenameRule {
  /** Such as `{group} {n:2}`. */
  pattern: string;
  find?: string;
  put?: string;
  /** The first number. */
  from?: number;
}

function withoutEnding(fileName: string): string {
  return fileName.replace(/(?<=.)\.[^.]*$/, '');
}
