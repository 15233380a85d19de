import { LRUCache } from 'lru-cache';
import type { Verification } from '@/core/convert';
import type { EncodingPlan } from '@/core/encoding';
import type { ErrorFacts } from '@/core/errors';
import type { RawDescription } from '@/core/formats/raw/reader';
import type { Warning } from '@/core/formats/types';
import type { WorkState } from '@/wire';
import type { Db } from './open';

/** What came of making a file. */
export interface MadeFile {
  sha256: string;
  verification: Verification;
  warnings: Warning[];
  /** How it is read when it has no header. */
  raw: RawDescription | null;
}

/** A file by everything that decides its bytes; what came of it is null until it is done. */
export interface Encoding {
  id: number;
  key: string;
  state: WorkState;
  error: ErrorFacts | null;
  sha256: string | null;
  verification: Verification | null;
  warnings: Warning[];
}

/** An encoding as lists know it. */
export interface EncodingInShort extends Pick<Encoding, 'id' | 'key' | 'state' | 'error'> {
  bytes: number | null;
  encodeMs: number | null;
}

type Stored = Pick<Encoding, 'id' | 'key' | 'state' | 'sha256'> & { error: string | null };

/**
 * Whoever needs encodings: the tables with an `encodingId`, each with how its project is found, and with what it
 * belongs to, which is asked for and stopped as one. Whatever else comes to need them gets a line here.
 */
const wanting = {
  outputs: { from: 'outputs JOIN builds ON builds.id = buildId', owner: 'buildId' },
  tryouts: { from: 'tryouts JOIN sounds ON sounds.id = soundId', owner: 'tryouts.id' },
  trials: {
    from: 'trials JOIN comparisons ON comparisons.id = comparisonId',
    owner: 'comparisonId',
  },
  oneOffFiles: { from: 'oneOffFiles JOIN oneOffs ON oneOffs.id = oneOffId', owner: 'oneOffId' },
} as const;
export type Wanting = keyof typeof wanting;
const UNWANTED = Object.keys(wanting)
  .map((table) => `NOT EXISTS (SELECT 1 FROM ${table} WHERE encodingId = encodings.id)`)
  .join(' AND ');
/** Who wants an encoding. */
const OWNERS = Object.entries(wanting)
  .map(
    ([table, { from, owner }]) =>
      `SELECT '${table}' AS kind, ${owner} AS owner FROM ${from} WHERE encodingId = @id`,
  )
  .join(' UNION ALL ');
/** Which project wants which encoding. */
const WANTED = (where: string) =>
  Object.values(wanting)
    .map(({ from }) => `SELECT encodingId, projectId FROM ${from} ${where}`)
    .join(' UNION ALL ');

/** What was measured on so many finished files is kept in memory, about 2 kB each. */
const MOST_KNOWN = 4_000;

/** Statements on files that are made, whoever wants them. */
export function encodingStatements(db: Db) {
  const LIGHT = 'SELECT id, key, state, error, sha256 FROM encodings';
  const byId = db.prepare<[number], Stored>(`${LIGHT} WHERE id = ?`);
  const byKey = db.prepare<[string], Stored>(`${LIGHT} WHERE key = ?`);
  // Nobody looks at the spectrum of a finished file, and it is most of what is known of it.
  const measures = db.prepare<[number], { verification: string | null; warnings: string }>(
    `SELECT json_remove(verification, '$.facts.spectrum') AS verification, warnings FROM encodings WHERE id = ?`,
  );
  const plan = db
    .prepare<[number], string | null>('SELECT plan FROM encodings WHERE id = ?')
    .pluck();
  const queue = db.prepare<[string, string], { id: number }>(
    `INSERT INTO encodings (key, plan, state) VALUES (?, ?, 'queued')
     ON CONFLICT (key) DO UPDATE SET plan = excluded.plan, state = 'queued', error = NULL,
       sha256 = NULL, verification = NULL, bytes = NULL, warnings = '[]', raw = NULL
     RETURNING id`,
  );
  const setState = db.prepare<[WorkState, string | null, number]>(
    'UPDATE encodings SET state = ?, error = ? WHERE id = ?',
  );
  const finish = db.prepare<
    [
      { id: number } & Record<'sha256' | 'verification' | 'warnings', string> & {
          raw: string | null;
        },
    ]
  >(
    `UPDATE encodings SET state = 'done', error = NULL, sha256 = @sha256, verification = @verification,
       warnings = @warnings, raw = @raw, bytes = @verification ->> '$.facts.bytes' WHERE id = @id`,
  );
  const files = db
    .prepare<[], string>('SELECT DISTINCT sha256 FROM encodings WHERE sha256 IS NOT NULL')
    .pluck();
  const lose = db.prepare<[string, string]>(
    `UPDATE encodings SET state = 'failed', error = ?, sha256 = NULL, verification = NULL, bytes = NULL, raw = NULL
     WHERE sha256 = ?`,
  );
  const dropUnwanted = db.prepare<[], { id: number; sha256: string | null }>(
    `DELETE FROM encodings WHERE ${UNWANTED} RETURNING id, sha256`,
  );
  const projects = db
    .prepare<[{ id: number }], number>(
      `SELECT DISTINCT projectId FROM (${WANTED('WHERE encodingId = @id')})`,
    )
    .pluck();
  const owners = db.prepare<[{ id: number }], { kind: Wanting; owner: number }>(OWNERS);
  const inShort = db.prepare<[string], Omit<EncodingInShort, 'error'> & { error: string | null }>(
    `SELECT id, key, state, error, bytes, verification ->> '$.encodeMs' AS encodeMs FROM encodings
     WHERE id IN (SELECT value FROM json_each(?))`,
  );
  const cancelAll = db.prepare<[string]>(
    "UPDATE encodings SET state = 'cancelled', error = NULL WHERE id IN (SELECT value FROM json_each(?))",
  );
  const shared = db
    .prepare<[{ ids: string }], number>(
      `SELECT encodingId FROM (${WANTED('WHERE encodingId IN (SELECT value FROM json_each(@ids))')})
       GROUP BY encodingId HAVING count(DISTINCT projectId) > 1`,
    )
    .pluck();
  const open = db.prepare<[], { id: number; projectId: number }>(
    `SELECT encodings.id, min(projectId) AS projectId
     FROM encodings JOIN (${WANTED('')}) ON encodingId = encodings.id
     WHERE state IN ('queued', 'running') GROUP BY encodings.id`,
  );

  // What was measured on a file never changes.
  const known = new LRUCache<string, Pick<Encoding, 'verification' | 'warnings'>>({
    max: MOST_KNOWN,
  });
  function measured(id: number, sha256: string | null) {
    if (sha256 === null) return { verification: null, warnings: [] };
    const kept = known.get(`${id} ${sha256}`);
    if (kept) return kept;
    const row = measures.get(id)!;
    const found = {
      verification:
        row.verification === null ? null : (JSON.parse(row.verification) as Verification),
      warnings: JSON.parse(row.warnings) as Warning[],
    };
    known.set(`${id} ${sha256}`, found);
    return found;
  }
  const revive = (row: Stored | undefined): Encoding | undefined =>
    row && {
      ...row,
      error: row.error === null ? null : (JSON.parse(row.error) as ErrorFacts),
      ...measured(row.id, row.sha256),
    };

  return {
    byId: (id: number) => revive(byId.get(id)),
    byKey: (key: string) => revive(byKey.get(key)),
    /** How it is to be made; null for one of an older Bijou. */
    planOf: (id: number) => JSON.parse(plan.get(id) ?? 'null') as EncodingPlan | null,
    /** Writes down that a file is to be made, anew where it was tried before. Answers its id. */
    queue: (key: string, of: EncodingPlan) => queue.get(key, JSON.stringify(of))!.id,
    setState: (id: number, state: WorkState, error: ErrorFacts | null = null) =>
      void setState.run(state, error && JSON.stringify(error), id),
    finish: (id: number, { sha256, verification, warnings, raw }: MadeFile) =>
      void finish.run({
        ...{ id, sha256 },
        verification: JSON.stringify(verification),
        warnings: JSON.stringify(warnings),
        raw: raw && JSON.stringify(raw),
      }),
    /** Every finished file. */
    files: () => files.all(),
    /** Writes down that a finished file is not there any more. */
    lose: (sha256: string, error: ErrorFacts) => void lose.run(JSON.stringify(error), sha256),
    /** Forgets those that nobody wants any more, and answers them. */
    dropUnwanted: () => dropUnwanted.all(),
    /** Everything that wants it. */
    owners: (id: number) => owners.all({ id }),
    /** Projects that want it. */
    projectsOf: (id: number) => projects.all({ id }),
    /** What lists need of some. */
    inShort: (ids: readonly number[]): Map<number, EncodingInShort> =>
      new Map(
        inShort
          .all(JSON.stringify(ids))
          .map((row) => [
            row.id,
            { ...row, error: row.error === null ? null : (JSON.parse(row.error) as ErrorFacts) },
          ]),
      ),
    /** Which of some more than one project wants. */
    sharedAmong: (ids: readonly number[]) => shared.all({ ids: JSON.stringify(ids) }),
    cancelAll: (ids: readonly number[]) => void cancelAll.run(JSON.stringify(ids)),
    /** Those that are queued or being made, each with a project that wants it. */
    open: () => open.all(),
  };
}
