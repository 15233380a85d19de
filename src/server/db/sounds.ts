import type { ErrorFacts } from '@/core/errors';
import type { Warning } from '@/core/formats/types';
import type { RawDescription } from '@/core/formats/raw/reader';
import { unmeasured, type Facts } from '@/core/measure/probe';
import { worriesOf } from '@/core/measure/worries';
import type { Recipe } from '@/core/recipe/types';
import type { Sound, SoundState } from '@/wire';
import type { Db } from './open';

/** A row as it is stored, JSON in its columns. */
type Stored = Omit<Sound, 'recipe' | 'error' | 'facts' | 'warnings' | 'worries' | 'raw'> &
  Record<'recipe' | 'warnings', string> &
  Record<'error' | 'facts' | 'raw', string | null>;

function revive(row: Stored): Sound {
  const facts = row.facts === null ? null : { ...unmeasured, ...(JSON.parse(row.facts) as Facts) };
  return {
    ...row,
    recipe: JSON.parse(row.recipe) as Recipe,
    error: row.error === null ? null : (JSON.parse(row.error) as ErrorFacts),
    raw: row.raw === null ? null : (JSON.parse(row.raw) as RawDescription),
    facts,
    warnings: JSON.parse(row.warnings) as Warning[],
    worries: facts ? worriesOf(facts, row.fileName) : [],
  };
}

const SELECT = `
  SELECT sounds.*, sources.bytes, sources.facts, sources.warnings, sources.raw
  FROM sounds JOIN sources ON sources.sha256 = sounds.sourceSha256`;

export function soundStatements(db: Db) {
  const insert = db.prepare<[number, string, string, string, string, SoundState, string]>(
    `INSERT INTO sounds (projectId, name, fileName, sourceSha256, recipe, state, addedAt)
     VALUES (?, ?, ?, ?, ?, ?, ?)`,
  );
  const addSource = db.prepare<[string, number, string | null]>(
    // Bytes that could not be read may come again with a description.
    `INSERT INTO sources (sha256, bytes, raw) VALUES (?, ?, ?)
     ON CONFLICT DO UPDATE SET raw = excluded.raw WHERE facts IS NULL`,
  );
  const setFacts = db.prepare<[string, string, string]>(
    'UPDATE sources SET facts = ?, warnings = ? WHERE sha256 = ?',
  );
  const ofProject = db.prepare<[number], Stored>(
    `${SELECT} WHERE sounds.projectId = ? AND sounds.removedAt IS NULL ORDER BY sounds.id`,
  );
  const byId = db.prepare<[number], Stored>(`${SELECT} WHERE sounds.id = ?`);
  const bySource = db.prepare<[number, string], Stored>(
    `${SELECT} WHERE sounds.projectId = ? AND sounds.sourceSha256 = ? AND sounds.removedAt IS NULL
       AND sounds.state <> 'refused'`,
  );
  const setState = db.prepare<[SoundState, string | null, number]>(
    'UPDATE sounds SET state = ?, error = ? WHERE id = ?',
  );
  const setName = db.prepare<[string, number]>('UPDATE sounds SET name = ? WHERE id = ?');
  const setRecipe = db.prepare<[string, number]>('UPDATE sounds SET recipe = ? WHERE id = ?');
  const setRemoved = db.prepare<[string | null, number]>(
    'UPDATE sounds SET removedAt = ? WHERE id = ?',
  );
  const users = db.prepare<[string], { count: number }>(
    `SELECT count(*) AS count FROM sounds WHERE sourceSha256 = ? AND state <> 'refused'`,
  );
  const factsOf = db.prepare<[string], { facts: string | null }>(
    'SELECT facts FROM sources WHERE sha256 = ?',
  );
  const rawOf = db.prepare<[string], { raw: string | null }>(
    'SELECT raw FROM sources WHERE sha256 = ?',
  );
  return {
    addSource: (sha256: string, bytes: number, raw: RawDescription | null) =>
      void addSource.run(sha256, bytes, raw && JSON.stringify(raw)),
    /** How the bytes are read, whoever they belong to. */
    rawOf: (sha256: string) => {
      const raw = rawOf.get(sha256)?.raw;
      return raw ? (JSON.parse(raw) as RawDescription) : null;
    },
    isRead: (sha256: string) => factsOf.get(sha256)?.facts != null,
    setFacts: (sha256: string, facts: Facts, warnings: Warning[]) =>
      void setFacts.run(JSON.stringify(facts), JSON.stringify(warnings), sha256),
    add: (
      row: Pick<Sound, 'projectId' | 'name' | 'fileName' | 'sourceSha256' | 'recipe' | 'state'>,
    ) =>
      Number(
        insert.run(
          row.projectId,
          row.name,
          row.fileName,
          row.sourceSha256,
          JSON.stringify(row.recipe),
          row.state,
          new Date().toISOString(),
        ).lastInsertRowid,
      ),
    ofProject: (projectId: number) => ofProject.all(projectId).map(revive),
    byId: (id: number) => {
      const row = byId.get(id);
      return row && revive(row);
    },
    bySource: (projectId: number, sha256: string) => {
      const row = bySource.get(projectId, sha256);
      return row && revive(row);
    },
    setState: (id: number, state: SoundState, error: ErrorFacts | null = null) =>
      void setState.run(state, error && JSON.stringify(error), id),
    setName: (id: number, name: string) => void setName.run(name, id),
    setRecipe: (id: number, recipe: Recipe) => void setRecipe.run(JSON.stringify(recipe), id),
    setRemoved: (id: number, removed: boolean) =>
      void setRemoved.run(removed ? new Date().toISOString() : null, id),
    /** How many sounds of any project, removed ones too, still need this source. */
    usersOf: (sha256: string) => users.get(sha256)?.count ?? 0,
  };
}
