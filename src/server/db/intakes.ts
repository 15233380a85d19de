import type { LeftOutReason } from '@/core/collect/arrivals';
import type { ErrorFacts } from '@/core/errors';
import type { Arrival, ArrivalOutcome, Intake } from '@/wire';
import type { Db } from './open';

/** What is written down of an arrival; its outcome also depends on its sound. */
export type ArrivalState = Exclude<ArrivalOutcome, 'reading' | 'differs' | 'added'> | 'here';

/** An arrival as it is stored. */
export interface ArrivalRow {
  id: number;
  intakeId: number;
  projectId: number;
  path: string;
  bytes: number;
  state: ArrivalState;
  soundId: number | null;
  /** A zip archive that waits to be unpacked. */
  archiveSha256: string | null;
  /** How many archives it stands in, and the one that it was unpacked from. */
  depth: number;
  archiveId: number | null;
}

/** How an arrival ended, or what it waits for. */
export interface Settlement {
  state: ArrivalState;
  reason?: LeftOutReason;
  error?: ErrorFacts;
  soundId?: number;
  archiveSha256?: string;
}

type Stored = Omit<Arrival, 'error'> & { error: string | null };

/** What somebody should read or decide, and how many of each are told. */
const shownOutcomes = ['differs', 'offered', 'failed', 'already', 'waiting'] as const;
const MOST_SHOWN = 100;
const MOST_EXAMPLES = 5;

/** Arrivals that have not been dismissed, with what became of them and of their sounds. */
const OPEN = `
  SELECT arrivals.id, arrivals.path, arrivals.bytes, arrivals.reason, arrivals.soundId,
    coalesce(arrivals.error, sounds.error) AS error, sounds.name AS soundName,
    CASE
      WHEN arrivals.state <> 'here' THEN arrivals.state
      WHEN sounds.id IS NULL THEN 'cancelled'
      WHEN sounds.state = 'reading' AND sounds.error IS NOT NULL THEN 'failed'
      WHEN sounds.state = 'reading' THEN 'reading'
      WHEN json_extract(sounds.error, '$.code') = 'cancelled' THEN 'cancelled'
      WHEN sounds.state = 'refused' THEN 'failed'
      WHEN sounds.replaces IS NOT NULL THEN 'differs'
      ELSE 'added'
    END AS outcome
  FROM arrivals JOIN intakes ON intakes.id = arrivals.intakeId
  LEFT JOIN sounds ON sounds.id = arrivals.soundId
  WHERE intakes.projectId = ? AND intakes.dismissedAt IS NULL`;

/** Statements on what was brought in. */
export function intakeStatements(db: Db) {
  const begin = db.prepare<[number, string]>(
    'INSERT INTO intakes (projectId, startedAt) VALUES (?, ?)',
  );
  const insert = db.prepare<[number, string, number, number, number | null]>(
    `INSERT INTO arrivals (intakeId, path, bytes, depth, archiveId, state) VALUES (?, ?, ?, ?, ?, 'waiting')`,
  );
  const byId = db.prepare<[number], ArrivalRow>(
    `SELECT arrivals.*, intakes.projectId FROM arrivals JOIN intakes ON intakes.id = intakeId
     WHERE arrivals.id = ?`,
  );
  const settle = db.prepare<
    [ArrivalState, string | null, string | null, number | null, string | null, number]
  >(
    'UPDATE arrivals SET state = ?, reason = ?, error = ?, soundId = ?, archiveSha256 = ? WHERE id = ?',
  );
  const counts = db.prepare<[number], { outcome: ArrivalOutcome; count: number }>(
    `SELECT outcome, count(*) AS count FROM (${OPEN}) GROUP BY outcome`,
  );
  const ofOutcome = db.prepare<[number, string, number], Stored>(
    `SELECT * FROM (${OPEN}) WHERE outcome = ? ORDER BY id LIMIT ?`,
  );
  const leftOut = db.prepare<[number], { reason: LeftOutReason; count: number }>(
    `SELECT reason, count(*) AS count FROM (${OPEN}) WHERE outcome = 'left-out' GROUP BY reason ORDER BY count DESC`,
  );
  const examples = db
    .prepare<[number, string, number], string>(
      `SELECT path FROM (${OPEN}) WHERE outcome = 'left-out' AND reason = ? ORDER BY id LIMIT ?`,
    )
    .pluck();
  const dismiss = db.prepare<[string, number]>(
    'UPDATE intakes SET dismissedAt = ? WHERE projectId = ? AND dismissedAt IS NULL',
  );
  const unpacked = db
    .prepare<[number], number>('SELECT count(*) FROM arrivals WHERE archiveId = ?')
    .pluck();
  const fromIntake = db
    .prepare<[number, number], number>(
      'SELECT count(*) FROM arrivals WHERE intakeId = ? AND soundId = ?',
    )
    .pluck();
  const unpacking = db.prepare<[], { id: number; projectId: number }>(
    `SELECT arrivals.id, projectId FROM arrivals JOIN intakes ON intakes.id = intakeId
     WHERE state = 'unpacking'`,
  );

  function open(projectId: number, outcome: ArrivalOutcome, most = MOST_SHOWN): Arrival[] {
    return ofOutcome.all(projectId, outcome, most).map((row) => ({
      ...row,
      error: row.error === null ? null : (JSON.parse(row.error) as ErrorFacts),
    }));
  }

  return {
    begin: (projectId: number) =>
      Number(begin.run(projectId, new Date().toISOString()).lastInsertRowid),
    /** Announces a file. */
    add: (
      intakeId: number,
      row: Pick<ArrivalRow, 'path' | 'bytes'> & Partial<Pick<ArrivalRow, 'depth' | 'archiveId'>>,
    ) =>
      Number(
        insert.run(intakeId, row.path, row.bytes, row.depth ?? 0, row.archiveId ?? null)
          .lastInsertRowid,
      ),
    arrival: (id: number) => byId.get(id),
    /** How many of an archive's entries have been dealt with: unpacking goes on behind them. */
    unpacked: (archiveId: number) => unpacked.get(archiveId) ?? 0,
    /** Whether a sound came in with this very intake. */
    brought: (intakeId: number, soundId: number) => (fromIntake.get(intakeId, soundId) ?? 0) > 0,
    settle: (id: number, { state, reason, error, soundId, archiveSha256 }: Settlement) =>
      void settle.run(
        state,
        reason ?? null,
        error ? JSON.stringify(error) : null,
        soundId ?? null,
        archiveSha256 ?? null,
        id,
      ),
    /** Those of one outcome, oldest first. */
    open,
    /** Archives of any project that are being unpacked, or are to be. */
    unpacking: () => unpacking.all(),
    dismiss: (projectId: number) => void dismiss.run(new Date().toISOString(), projectId),
    /** What is to be told of a project's undismissed intakes; null for nothing. */
    summary(projectId: number): Intake | null {
      const rows = counts.all(projectId);
      if (rows.length === 0) return null;
      const among: Partial<Record<ArrivalOutcome, number>> = Object.fromEntries(
        rows.map(({ outcome, count }) => [outcome, count]),
      );
      const groups = among['left-out'] ? leftOut.all(projectId) : [];
      return {
        counts: among,
        leftOut: groups.map((group) => ({
          ...group,
          examples: examples.all(projectId, group.reason, MOST_EXAMPLES),
        })),
        shown: shownOutcomes
          .filter((outcome) => among[outcome])
          .flatMap((outcome) => open(projectId, outcome)),
      };
    },
  };
}
