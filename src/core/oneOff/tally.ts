import { count } from '../tradeNames';
import { plural, type Word } from '../words';
import { changeWords, type Change } from './change';

/** Pairs that are named in one line. */
const MOST_PAIRS = 4;

interface Counted {
  change: Change;
  files: number;
}

/** Gathers what had to change in many files, and says it in one line for each kind. */
export class ChangeTally {
  private readonly counted = new Map<string, Counted>();

  add(changes: readonly Change[]): void {
    for (const change of changes) {
      const key = `${change.kind} ${change.from} ${change.to}`;
      const known = this.counted.get(key);
      if (known) known.files++;
      else this.counted.set(key, { change, files: 1 });
    }
  }

  /** "11 files resampled from 44,100 to 48,000 Hz: Ogg Opus holds no other." */
  lines(one: Word = 'file'): string[] {
    const kinds = new Map<string, Counted[]>();
    for (const counted of this.counted.values()) {
      const { verb } = changeWords(counted.change);
      kinds.set(verb, [...(kinds.get(verb) ?? []), counted]);
    }
    return [...kinds].map(([verb, pairs]) => line(one, verb, pairs));
  }
}

function line(one: Word, verb: string, pairs: readonly Counted[]): string {
  const total = plural(
    pairs.reduce((sum, { files }) => sum + files, 0),
    one,
  );
  const { change } = pairs[0]!;
  if (pairs.length === 1) return `${total} ${verb} ${changeWords(change).pair}: ${change.why}.`;
  const named = [...pairs].sort((a, b) => b.files - a.files).slice(0, MOST_PAIRS);
  const list = named.map(({ change, files }) => `${changeWords(change).pair} (${count(files)})`);
  const rest = pairs.length - named.length;
  if (rest > 0) list.push(plural(rest, 'other way'));
  return `${total} ${verb}, ${list.join(', ')}: ${change.format} cannot hold them as they are.`;
}
