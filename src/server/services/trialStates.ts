import { BijouError } from '@/core/errors';
import type { Job, WorkState } from '@/wire';
import type { Database } from '../db';
import type { EncodingInShort } from '../db/encodings';
import type { ComparisonRow, TrialRow } from '../db/trials';

/** @throws not-found */
export function comparisonById(db: Pick<Database, 'trials'>, id: number): ComparisonRow {
  const row = db.trials.comparison(id);
  if (row) return row;
  throw new BijouError('not-found', 'That comparison is not kept any more.', 'Compare again.');
}

/** How far a trial is: its file has to be made, then measured. */
export function trialState(
  { error, figures }: TrialRow,
  encoding: EncodingInShort | undefined,
  job: Job | undefined,
): WorkState {
  if (error) return 'failed';
  if (figures) return 'done';
  if (!encoding) return 'failed';
  return encoding.state === 'done' ? (job?.state ?? 'cancelled') : encoding.state;
}
