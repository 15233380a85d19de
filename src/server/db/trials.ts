import type { Candidate } from '@/core/compare/candidates/candidate';
import type { TriedSound } from '@/core/compare/measured';
import type { ListedFigures, TrialFigures } from '@/core/compare/trial';
import type { WorkFigures } from '@/core/compare/work';
import type { ErrorFacts } from '@/core/errors';
import type { Change } from '@/core/oneOff/change';
import type { Recipe } from '@/core/recipe/types';
import type { Machine } from '@/wire';
import type { Db } from './open';

/** One run of trials. */
export interface ComparisonRow {
  id: number;
  projectId: number;
  runs: number;
  machine: Machine;
  createdAt: string;
}

/** How a trial is made, beside what its encoding says. */
export interface TrialHow {
  settings: object;
  changes: Change[];
  /** What it is held against. */
  reference: Recipe;
  sound: TriedSound;
}

/** One candidate on one sound; `how` is null where it cannot be made. */
export interface TrialRow {
  id: number;
  comparisonId: number;
  soundId: number;
  candidate: Candidate;
  encodingId: number | null;
  how: TrialHow | null;
  /** What it was planned from; null where that is not known. */
  basis: string | null;
  error: ErrorFacts | null;
  figures: ListedFigures | null;
  work: WorkFigures | null;
}

/** What a trial of an earlier run came to. */
export interface EarlierTrial extends Pick<
  TrialRow,
  'comparisonId' | 'soundId' | 'candidate' | 'work'
> {
  bytes: number;
  grade: number;
}

type StoredComparison = Omit<ComparisonRow, 'machine'> & { machine: string };
type Stored = Pick<TrialRow, 'id' | 'comparisonId' | 'soundId' | 'encodingId' | 'basis'> &
  Record<'plan' | 'error' | 'figures' | 'work', string | null> & { candidate: string };

/** Statements on trials and the runs that they belong to. */
export function trialStatements(db: Db) {
  const insert = db.prepare<[number, number, string, string]>(
    'INSERT INTO comparisons (projectId, runs, machine, createdAt) VALUES (?, ?, ?, ?)',
  );
  const insertTrial = db.prepare<
    [number, number, string, number | null, string | null, string | null, string | null]
  >(
    `INSERT INTO trials (comparisonId, soundId, candidate, encodingId, plan, basis, error)
     VALUES (?, ?, ?, ?, ?, ?, ?)`,
  );
  const comparison = db.prepare<[number], StoredComparison>(
    'SELECT id, projectId, runs, machine, createdAt FROM comparisons WHERE id = ?',
  );
  const comparisons = db.prepare<[number], StoredComparison>(
    `SELECT id, projectId, runs, machine, createdAt FROM comparisons WHERE projectId = ? ORDER BY id DESC`,
  );
  const setTimingDue = db.prepare<[0 | 1, number]>(
    'UPDATE comparisons SET isTimingDue = ? WHERE id = ?',
  );
  const timingDue = db.prepare<[], { id: number; projectId: number }>(
    'SELECT id, projectId FROM comparisons WHERE isTimingDue = 1',
  );
  const forget = db.prepare<[number]>('DELETE FROM comparisons WHERE id = ?');
  const dropOld = db
    .prepare<[{ projectId: number; kept: number }], number>(
      `DELETE FROM comparisons WHERE projectId = @projectId AND id NOT IN (
         SELECT id FROM comparisons WHERE projectId = @projectId ORDER BY id DESC LIMIT @kept)
       RETURNING id`,
    )
    .pluck();
  // Curves and bands are most of what is known of a trial, and few look at them.
  const LIGHT = `SELECT id, comparisonId, soundId, candidate, encodingId, plan, basis, error, work,
    listed AS figures FROM trials`;
  const trial = db.prepare<[number], Stored>(`${LIGHT} WHERE id = ?`);
  const trials = db.prepare<[number], Stored>(`${LIGHT} WHERE comparisonId = ? ORDER BY id`);
  const ofEncoding = db.prepare<[number], Stored>(
    `${LIGHT} WHERE encodingId = ? AND figures IS NULL ORDER BY id`,
  );
  const standing = db.prepare<[number], Record<'open' | 'cancelled' | 'untimed', number>>(
    `SELECT
       count(*) FILTER (WHERE waits AND (encoded IN ('queued', 'running') OR jobId IS NOT NULL)) AS open,
       count(*) FILTER (WHERE waits AND jobId IS NULL AND encoded IN ('cancelled', 'done')) AS cancelled,
       count(*) FILTER (WHERE figures IS NOT NULL AND work IS NULL) AS untimed
     FROM (SELECT figures, work, figures IS NULL AND trials.error IS NULL AS waits, encodings.state AS encoded,
         jobs.id AS jobId
       FROM trials LEFT JOIN encodings ON encodings.id = encodingId
         LEFT JOIN jobs ON kind = 'trial' AND subjectId = trials.id
       WHERE comparisonId = ?)`,
  );
  const summaries = db.prepare<
    [number],
    Record<'id' | 'trials' | 'measured' | 'failed', number> & { createdAt: string; sounds: string }
  >(
    `SELECT comparisons.id, createdAt, json_group_array(DISTINCT soundId) AS sounds, count(trials.id) AS trials,
       count(figures) AS measured,
       count(trials.id) FILTER (WHERE trials.error IS NOT NULL
         OR figures IS NULL AND coalesce(encodings.state, 'failed') = 'failed') AS failed
     FROM comparisons JOIN trials ON comparisonId = comparisons.id LEFT JOIN encodings ON encodings.id = encodingId
     WHERE projectId = ? GROUP BY comparisons.id ORDER BY comparisons.id DESC`,
  );
  const earlier = db.prepare<
    [{ id: number; projectId: number }],
    Omit<EarlierTrial, 'candidate' | 'work'> & { candidate: string; work: string | null }
  >(
    `SELECT comparisonId, soundId, candidate, work, listed ->> '$.bytes' AS bytes,
       listed ->> '$.fidelity.grade' AS grade
     FROM trials WHERE id IN (
       SELECT (SELECT id FROM trials AS before
           WHERE before.soundId = now.soundId AND before.candidate = now.candidate AND before.comparisonId < @id
             AND before.figures IS NOT NULL
             AND before.comparisonId IN (SELECT id FROM comparisons WHERE projectId = @projectId)
           ORDER BY before.id DESC LIMIT 1)
       FROM trials AS now WHERE now.comparisonId = @id)`,
  );
  const waitingAmong = db
    .prepare<[string], number>(
      `SELECT DISTINCT comparisonId FROM trials
       WHERE encodingId IN (SELECT value FROM json_each(?)) AND figures IS NULL`,
    )
    .pluck();
  const measuredFiles = db
    .prepare<[number], string | null>(
      `SELECT group_concat(trials.id || ' ' || sha256) FROM trials JOIN encodings ON encodings.id = encodingId
       WHERE comparisonId = ? AND figures IS NOT NULL`,
    )
    .pluck();
  const whole = db
    .prepare<[number], string | null>('SELECT figures FROM trials WHERE id = ?')
    .pluck();
  const setFigures = db.prepare<[{ id: number; figures: string }]>(
    `UPDATE trials SET figures = @figures,
       listed = json_remove(@figures, '$.fidelity.bands', '$.fidelity.curve') WHERE id = @id`,
  );
  const setError = db.prepare<[string, number]>('UPDATE trials SET error = ? WHERE id = ?');
  const setWork = db.prepare<[string | null, number]>('UPDATE trials SET work = ? WHERE id = ?');
  const news = db.prepare<
    [number],
    Record<'runs' | 'count' | 'measured' | 'failed' | 'timed', number>
  >(
    `SELECT max(id) AS runs,
       coalesce(sum((SELECT count(*) FROM trials WHERE comparisonId = comparisons.id)), 0) AS count,
       sum((SELECT count(*) FROM trials WHERE comparisonId = comparisons.id AND figures IS NOT NULL)) AS measured,
       sum((SELECT count(*) FROM trials WHERE comparisonId = comparisons.id AND error IS NOT NULL)) AS failed,
       sum((SELECT count(*) FROM trials WHERE comparisonId = comparisons.id AND work IS NOT NULL)) AS timed
     FROM comparisons WHERE projectId = ?`,
  );
  const unmeasured = db.prepare<[], { id: number; projectId: number }>(
    `SELECT trials.id, projectId FROM trials JOIN comparisons ON comparisons.id = comparisonId
       JOIN encodings ON encodings.id = encodingId
     WHERE figures IS NULL AND trials.error IS NULL AND state = 'done'`,
  );

  const read = <T>(text: string | null) => (text === null ? null : (JSON.parse(text) as T));
  const reviveRun = (row: StoredComparison): ComparisonRow => ({
    ...row,
    machine: JSON.parse(row.machine) as Machine,
  });
  const revive = (
    { plan, ...row }: Stored,
    candidate = JSON.parse(row.candidate) as Candidate,
  ): TrialRow => ({
    ...row,
    candidate,
    how: read<TrialHow>(plan),
    error: read<ErrorFacts>(row.error),
    figures: read<ListedFigures>(row.figures),
    work: read<WorkFigures>(row.work),
  });

  return {
    begin: (projectId: number, runs: number, machine: Machine) =>
      Number(
        insert.run(projectId, runs, JSON.stringify(machine), new Date().toISOString())
          .lastInsertRowid,
      ),
    add: ({
      comparisonId,
      soundId,
      candidate,
      encodingId,
      how,
      basis,
      error,
    }: Omit<TrialRow, 'id' | 'figures' | 'work'>) =>
      void insertTrial.run(
        comparisonId,
        soundId,
        JSON.stringify(candidate),
        encodingId,
        how && JSON.stringify(how),
        basis,
        error && JSON.stringify(error),
      ),
    comparison(id: number): ComparisonRow | undefined {
      const row = comparison.get(id);
      return row && reviveRun(row);
    },
    /** Of a project, the newest first. */
    comparisons: (projectId: number) => comparisons.all(projectId).map(reviveRun),
    forget: (id: number) => void forget.run(id),
    /** Forgets all but the newest runs of a project; answers those that are gone. */
    dropOld: (projectId: number, kept: number) => dropOld.all({ projectId, kept }),
    byId(id: number): TrialRow | undefined {
      const row = trial.get(id);
      return row && revive(row);
    },
    /** Everything that was measured. */
    figuresOf: (id: number) => read<TrialFigures>(whole.get(id) ?? null),
    /** Those of a run; trials of the same candidate share one object of it. */
    of(comparisonId: number): TrialRow[] {
      const known = new Map<string, Candidate>();
      return trials.all(comparisonId).map((row) => {
        const found = revive(row, known.get(row.candidate));
        known.set(row.candidate, found.candidate);
        return found;
      });
    },
    /** Those that wait for a file, in all projects. */
    waitingFor: (encodingId: number) => ofEncoding.all(encodingId).map((row) => revive(row)),
    /** How many trials of a run are being worked on, were cancelled, and are still to be timed. */
    standing: (comparisonId: number) => standing.get(comparisonId)!,
    /** The runs of a project in short, the newest first. */
    summaries: (projectId: number) =>
      summaries.all(projectId).map(({ sounds, ...row }) => ({
        ...row,
        soundIds: JSON.parse(sounds) as number[],
      })),
    /** The newest measured trial of each sound and candidate of a run, in runs before it. */
    earlier: ({ id, projectId }: Pick<ComparisonRow, 'id' | 'projectId'>): EarlierTrial[] =>
      earlier.all({ id, projectId }).map((row) => ({
        ...row,
        candidate: JSON.parse(row.candidate) as Candidate,
        work: read<WorkFigures>(row.work),
      })),
    /** The runs that wait for some files. */
    waitingAmong: (encodingIds: readonly number[]) => waitingAmong.all(JSON.stringify(encodingIds)),
    /** Tells the measured files of a run from all others. */
    measuredFiles: (comparisonId: number) => measuredFiles.get(comparisonId) ?? '',
    setFigures: (id: number, figures: TrialFigures) =>
      void setFigures.run({ id, figures: JSON.stringify(figures) }),
    setError: (id: number, error: ErrorFacts) => void setError.run(JSON.stringify(error), id),
    setWork: (id: number, work: WorkFigures | null) =>
      void setWork.run(work && JSON.stringify(work), id),
    news(projectId: number) {
      const found = news.get(projectId)!;
      return { count: found.count, version: Object.values(found).join(' ') };
    },
    /** Whether what decoding costs is to be measured, once everything else is. */
    setTimingDue: (id: number, isDue: boolean) => void setTimingDue.run(isDue ? 1 : 0, id),
    timingDue: () => timingDue.all(),
    /** Those whose file is there and that nobody has measured. */
    unmeasured: () => unmeasured.all(),
  };
}
