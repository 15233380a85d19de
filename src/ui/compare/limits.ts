import { isSpan } from '@/core/brief/accepted';
import type { Brief } from '@/core/brief/schema';
import { quantile } from '@/core/measure/statistics';
import type { CandidateRow } from '@/core/compare/rows';
import type { Trial } from '@/wire';
import { size } from '../shared/format';

/** A size that a destination does not go beyond. */
export interface SizeLimit {
  kbps: number;
  text: string;
}

const bitRates = ({ files }: Brief) => files.filter(({ bitRatesKbps }) => bitRatesKbps);

export function hasLimits(brief: Brief): boolean {
  return brief.mostBytes !== undefined || bitRates(brief).length > 0;
}

/** The limits of a destination on the sounds that are looked at, in kbit/s. */
export function limitsOf(brief: Brief, rows: readonly CandidateRow<Trial>[]): SizeLimit[] {
  const lengths = rows.flatMap(({ measured }) => measured.map(({ sound }) => sound.seconds));
  const seconds = quantile(lengths, 0.5);
  const { mostBytes } = brief;
  const byBytes =
    mostBytes !== undefined && seconds > 0
      ? [{ kbps: (mostBytes * 8) / seconds / 1_000, text: `at most ${size(mostBytes)}` }]
      : [];
  const byRate = brief.files.flatMap(({ bitRatesKbps }) => {
    if (!bitRatesKbps) return [];
    const most = isSpan(bitRatesKbps) ? bitRatesKbps.to : Math.max(...bitRatesKbps);
    return [{ kbps: most, text: `at most ${most} kbit/s` }];
  });
  return [...byBytes, ...byRate];
}
