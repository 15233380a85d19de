import { quantile } from '../measure/statistics';
import { candidateKey, wholeName, type NamedCandidate } from './candidates/candidate';
import type { TrialColumn } from './measured';
import { unbeaten } from './front';
import type { MeasuredTrial } from './measured';

/** A trial as far as rows are made of it. */
interface Tried {
  candidate: NamedCandidate;
  measured: MeasuredTrial | null;
}

/** One candidate with its trials on the sounds that are looked at. */
export interface CandidateRow<Trial extends Tried = Tried> {
  key: string;
  name: string;
  candidate: NamedCandidate;
  trials: readonly Trial[];
  /** Those of them that are measured. */
  measured: readonly MeasuredTrial[];
  /** No other candidate is smaller and better. */
  isUnbeaten: boolean;
}

/** Candidates in their order, each with its trials. */
export function candidateRows<Trial extends Tried>(
  trials: readonly Trial[],
): CandidateRow<Trial>[] {
  const byKey = new Map<string, Trial[]>();
  for (const trial of trials) {
    const key = candidateKey(trial.candidate);
    byKey.set(key, [...(byKey.get(key) ?? []), trial]);
  }
  const rows = [...byKey].map(([key, own]) => {
    const { candidate } = own[0]!;
    const measured = own.flatMap((trial) => trial.measured ?? []);
    return { key, name: wholeName(candidate), candidate, trials: own, measured };
  });
  // What could not be tried on every sound is not held against what could.
  const most = Math.max(0, ...rows.map(({ measured }) => measured.length));
  const whole = rows.filter(({ measured }) => most > 0 && measured.length === most);
  const best = unbeaten(
    whole.map(({ measured }) => ({
      bytes: middle(measured.map(({ figures }) => figures.bytes)),
      grade: middle(measured.map(({ figures }) => figures.fidelity.grade)),
    })),
  );
  const isUnbeaten = new Map(whole.map(({ key }, i) => [key, best[i]!]));
  return rows.map((row) => ({ ...row, isUnbeaten: isUnbeaten.get(row.key) ?? false }));
}

const middle = (values: readonly number[]) => quantile(values, 0.5);

/** A figure over the sounds of a row: the middle one, the lowest and the highest; null where none has it. */
export interface RowValue {
  median: number;
  low: number;
  high: number;
}

export function rowValue({ value }: TrialColumn, { measured }: CandidateRow): RowValue | null {
  const values = measured.flatMap((trial) => value(trial) ?? []);
  if (values.length === 0) return null;
  return { median: middle(values), low: Math.min(...values), high: Math.max(...values) };
}
