import { BijouError } from '@/core/errors';
import type { WorkState } from '@/wire';
import type { Database } from '../db';
import type { ComparisonRow, TrialRow } from '../db/trials';

/** @throws not-found */
export function comparisonById(db: Pick<Database, 'trials'>, id: number): ComparisonRow {
  const row = db.trials.comparison(id);
  if (row) return row;
  throw new BijouError('not-found', 'That comparison is not kept any more.', 'Compare again.');
}

/** How far a trial is: its file has to be made, then measured. */
export function trialState(
  db: Pick<Database, 'encodings' | 'jobs'>,
  { id, error, figures, encodingId }: TrialRow,
): WorkState {
  if (error) return 'failed';
  if (figures) return 'done';
  const encoding = encodingId === null ? undefined : db.encodings.byId(encodingId);
  if (!encoding) return 'failed';
  if (encoding.state !== 'done') return encoding.state;
  const job = db.jobs.of('trial', id);
  return job === undefined ? 'cancelled' : (db.jobs.byId(job)?.state ?? 'queued');
}
