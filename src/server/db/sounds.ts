import { errorFacts, type ErrorFacts } from '@/core/errors';
import type { RawDescription } from '@/core/formats/raw/reader';
import type { Warning } from '@/core/formats/types';
import { LRUCache } from 'lru-cache';
import { unmeasured, type ListedFacts } from '@/core/measure/probe';
import type { Join } from '@/core/join/plan';
import { knownSeam, setsLoop } from '@/core/loop/seam/known';
import { worriesOf } from '@/core/measure/worries';
import { isCured } from '@/core/recipe/cure';
import type { Outcome } from '@/core/recipe/outcome';
import { shapeAfter } from '@/core/recipe/recipe';
import { shapeOf, type Recipe } from '@/core/recipe/types';
import type { Tempo } from '@/core/tempo';
import type { Joined, ListedWorry, SetAside, Sound, SoundState } from '@/wire';
import type { Db } from './open';
import { sendingStatements, type Sent } from './packs';

/** Columns that hold JSON, which may be empty or not. */
type JsonColumn = 'recipe' | 'labels' | 'setAside' | 'warnings';
type JsonOrNull = 'outcome' | 'error' | 'facts' | 'raw' | 'tempo' | 'join' | 'joined';
/** A row as it is stored, JSON in its columns. */
type Stored = Omit<Sound, JsonColumn | JsonOrNull | 'worries' | 'recipeProblem'> &
  Record<JsonColumn, string> &
  Record<JsonOrNull, string | null> & { setAside: string; editedAt: number };

function revive(row: Stored): Sound {
  const facts = row.facts === null ? null : listedFacts(row.facts);
  const recipe = JSON.parse(row.recipe) as Recipe;
  const warnings = JSON.parse(row.warnings) as Warning[];
  // What was set aside is told with the worries; when it was edited is asked for alone.
  const { setAside, editedAt, ...told } = row;
  void editedAt;
  const asides = JSON.parse(setAside) as SetAside[];
  const outcome = jsonOrNull<Outcome>(row.outcome);
  const seam = facts && knownSeam(recipe, facts.seam, outcome);
  // Where the recipe sets the loop, the file's is none any more.
  const looked = facts && { ...facts, seam, loop: setsLoop(recipe) ? null : facts.loop };
  return {
    ...told,
    recipe,
    labels: JSON.parse(row.labels) as string[],
    tempo: jsonOrNull<Tempo>(row.tempo),
    join: jsonOrNull<Join>(row.join),
    joined: jsonOrNull<Joined>(row.joined),
    error: jsonOrNull<ErrorFacts>(row.error),
    raw: jsonOrNull<RawDescription>(row.raw),
    facts,
    warnings,
    seam,
    worries: looked ? listedWorries(row, asides, looked, warnings, recipe) : [],
    outcome,
    recipeProblem: facts && (recipeProblem(recipe, facts) ?? outcome?.error ?? null),
  };
}

function jsonOrNull<T>(text: string | null): T | null {
  return text === null ? null : (JSON.parse(text) as T);
}

/** Six decimals are more than any measure is good for, and half as long. */
function listedFacts(stored: string): ListedFacts {
  const facts = JSON.parse(stored) as Record<string, unknown>;
  for (const [name, value] of Object.entries(facts)) {
    const isBroken = typeof value === 'number' && !Number.isInteger(value);
    if (isBroken) facts[name] = Math.round(value * 1e6) / 1e6;
  }
  return { ...unmeasured, ...(facts as unknown as ListedFacts) };
}

/** Worries with what has become of them. What was set aside for other bytes counts no more. */
function listedWorries(
  row: Stored,
  asides: readonly SetAside[],
  facts: ListedFacts,
  warnings: readonly Warning[],
  recipe: Recipe,
): ListedWorry[] {
  return worriesOf(facts, row.fileName, warnings).map((worry) => {
    const aside = asides.find(
      ({ code, sourceSha256 }) => code === worry.code && sourceSha256 === row.sourceSha256,
    );
    if (isCured(recipe, worry.cure)) return { ...worry, state: 'cured' };
    return aside ? { ...worry, state: 'set-aside', note: aside.note } : { ...worry, state: 'open' };
  });
}

/** Why the recipe cannot be followed on this source, e.g. after it was replaced by a shorter one. */
function recipeProblem(recipe: Recipe, facts: ListedFacts): ErrorFacts | null {
  if (recipe.steps.length === 0) return null;
  try {
    shapeAfter(recipe, shapeOf(facts));
    return null;
  } catch (error) {
    return errorFacts(error);
  }
}

/** What tells whether a sound is as it was. */
interface Stamp {
  id: number;
  revision: number;
}

/** Sounds that are kept in memory, about 4 kB each. */
const MOST_KNOWN = 20_000;

const SELECT = `
  SELECT sounds.*, sources.bytes, sources.facts, sources.warnings, sources.raw
  FROM sounds JOIN sources ON sources.sha256 = sounds.sourceSha256`;

/** What people can change of a sound, and undo. */
export type SoundValues = Pick<
  Sound,
  | 'name'
  | 'group'
  | 'labels'
  | 'note'
  | 'language'
  | 'recipe'
  | 'tempo'
  | 'join'
  | 'removedAt'
  | 'sourceSha256'
  | 'fileName'
> & { setAside: SetAside[]; sent: Sent };

const asJson = new Set<keyof SoundValues>(['labels', 'recipe', 'tempo', 'join', 'setAside']);
/** All but where it is sent, which is no column of its own. */
const valueNames: readonly Exclude<keyof SoundValues, 'sent'>[] = [
  'name',
  'group',
  'labels',
  'note',
  'language',
  'recipe',
  'tempo',
  'join',
  'removedAt',
  'sourceSha256',
  'fileName',
  'setAside',
];

type Newcomer = Pick<
  Sound,
  'projectId' | 'name' | 'fileName' | 'sourceSha256' | 'recipe' | 'state' | 'group' | 'folder'
> & { replaces: number | null };

export function soundStatements(db: Db) {
  const sending = sendingStatements(db);
  const insert = db.prepare<[Omit<Newcomer, 'recipe'> & { recipe: string; addedAt: string }]>(
    `INSERT INTO sounds (projectId, name, fileName, sourceSha256, recipe, state, addedAt, "group", folder, replaces)
     VALUES (@projectId, @name, @fileName, @sourceSha256, @recipe, @state, @addedAt, @group, @folder, @replaces)`,
  );
  const ofProject = db.prepare<[number], Stamp>(
    `SELECT id, revision FROM sounds
     WHERE projectId = ? AND removedAt IS NULL AND replaces IS NULL ORDER BY id`,
  );
  const part = db.prepare<[number, number, number], Stamp>(
    `SELECT id, revision FROM sounds
     WHERE projectId = ? AND id > ? AND removedAt IS NULL AND replaces IS NULL ORDER BY id LIMIT ?`,
  );
  const countAfter = db
    .prepare<[number, number], number>(
      `SELECT count(*) FROM sounds
       WHERE projectId = ? AND id > ? AND removedAt IS NULL AND replaces IS NULL`,
    )
    .pluck();
  const since = db.prepare<[number, number], Stamp & { isListed: 0 | 1 }>(
    `SELECT id, revision, removedAt IS NULL AND replaces IS NULL AS isListed FROM sounds
     WHERE projectId = ? AND revision > ? ORDER BY id`,
  );
  const areOther = db
    .prepare<[number, number], 0 | 1>(
      'SELECT EXISTS (SELECT 1 FROM sounds WHERE projectId = ? AND revision > ?)',
    )
    .pluck();
  const latestOf = db
    .prepare<[number], number | null>('SELECT max(revision) FROM sounds WHERE projectId = ?')
    .pluck();
  const stampOf = db.prepare<[number], Stamp>('SELECT id, revision FROM sounds WHERE id = ?');
  const revision = db.prepare<[], number>('SELECT latest FROM revisions').pluck();
  const byId = db.prepare<[number], Stored>(`${SELECT} WHERE sounds.id = ?`);
  const editedAt = db.prepare<[number], number>('SELECT editedAt FROM sounds WHERE id = ?').pluck();
  const bySource = db.prepare<[number, string], Stamp>(
    `SELECT id, revision FROM sounds WHERE projectId = ? AND sourceSha256 = ? AND removedAt IS NULL AND replaces IS NULL
       AND state <> 'refused'`,
  );
  const byFile = db.prepare<[number, string], Stamp>(
    `SELECT id, revision FROM sounds WHERE projectId = ? AND fileName = ? AND removedAt IS NULL AND replaces IS NULL
       AND state <> 'refused'`,
  );
  const names = db
    .prepare<[number, string], string>(
      `SELECT name FROM sounds WHERE projectId = ? AND "group" = ? AND removedAt IS NULL AND replaces IS NULL AND state <> 'refused'`,
    )
    .pluck();
  const setState = db.prepare<[SoundState, string | null, number]>(
    'UPDATE sounds SET state = ?, error = ? WHERE id = ?',
  );
  const setValue = Object.fromEntries(
    valueNames.map((name) => [
      name,
      db.prepare<[unknown, number]>(`UPDATE sounds SET "${name}" = ? WHERE id = ?`),
    ]),
  ) as Record<(typeof valueNames)[number], ReturnType<typeof db.prepare<[unknown, number]>>>;
  // What somebody changes is told apart from what happens to a sound by itself.
  const edited = db.prepare<[number]>('UPDATE sounds SET editedAt = revision + 1 WHERE id = ?');
  const setJoined = db.prepare<[string, string, number]>(
    'UPDATE sounds SET sourceSha256 = ?, joined = ? WHERE id = ?',
  );
  const joins = db.prepare<[number], Stamp>(
    `SELECT id, revision FROM sounds
     WHERE projectId = ? AND "join" IS NOT NULL AND removedAt IS NULL ORDER BY id`,
  );
  const ofUnknownOutcome = db.prepare<[number], Stamp>(
    `SELECT id, revision FROM sounds
     WHERE projectId = ? AND outcome IS NULL AND state = 'ready' AND json_array_length(recipe, '$.steps') > 0
       AND removedAt IS NULL ORDER BY id`,
  );
  const beingRead = db.prepare<[number], { id: number; isRemoved: 0 | 1; isStuck: 0 | 1 }>(
    `SELECT id, removedAt IS NOT NULL AS isRemoved, error IS NOT NULL AS isStuck FROM sounds
     WHERE projectId = ? AND state = 'reading' AND "join" IS NULL ORDER BY id`,
  );
  const setOutcome = db.prepare<[string, number]>('UPDATE sounds SET outcome = ? WHERE id = ?');
  const keepAsNew = db.prepare<[number]>('UPDATE sounds SET replaces = NULL WHERE id = ?');
  const removeRefused = db.prepare<[string, number]>(
    `UPDATE sounds SET removedAt = ? WHERE projectId = ? AND state = 'refused' AND removedAt IS NULL`,
  );
  const unassign = db.prepare<[number]>('DELETE FROM assignments WHERE soundId = ?');
  const forget = db.prepare<[number]>('DELETE FROM sounds WHERE id = ?');
  const removed = db.prepare<[number], Pick<Sound, 'id' | 'state' | 'sourceSha256'>>(
    'SELECT id, state, sourceSha256 FROM sounds WHERE projectId = ? AND removedAt IS NOT NULL',
  );

  const replacing = db.prepare<[number], Stamp>(
    'SELECT id, revision FROM sounds WHERE replaces = ?',
  );
  const unread = db.prepare<[], Stamp>(
    `SELECT id, revision FROM sounds WHERE state = 'reading' AND "join" IS NULL`,
  );

  // A sound of the same revision is the same: who asks again gets the same object.
  const known = new LRUCache<number, Sound>({ max: MOST_KNOWN });
  function soundOf({ id, revision }: Stamp): Sound {
    const before = known.get(id);
    if (before?.revision === revision) return before;
    const sound = revive(byId.get(id)!);
    known.set(id, sound);
    return sound;
  }

  return {
    add: (row: Newcomer) =>
      Number(
        insert.run({
          ...row,
          recipe: JSON.stringify(row.recipe),
          addedAt: new Date().toISOString(),
        }).lastInsertRowid,
      ),
    ofProject: (projectId: number) => ofProject.all(projectId).map(soundOf),
    /** At most so many, behind one. */
    part: (projectId: number, after: number, most: number) =>
      part.all(projectId, after, most).map(soundOf),
    countAfter: (projectId: number, after: number) => countAfter.get(projectId, after)!,
    /** Every sound that is other than at `revision`; those that left the list are named only. */
    since(projectId: number, from: number): { changed: Sound[]; gone: number[] } {
      const rows = since.all(projectId, from);
      return {
        changed: rows.filter(({ isListed }) => isListed).map(soundOf),
        gone: rows.filter(({ isListed }) => !isListed).map(({ id }) => id),
      };
    },
    /** Whether any sound of a project is other than at `revision`. */
    areOther: (projectId: number, than: number) => areOther.get(projectId, than) === 1,
    revision: () => revision.get() ?? 0,
    /** The revision in which any sound of a project became what it is. */
    latestOf: (projectId: number) => latestOf.get(projectId) ?? 0,
    byId: (id: number) => {
      const stamp = stampOf.get(id);
      return stamp && soundOf(stamp);
    },
    bySource: (projectId: number, sha256: string) => {
      const stamp = bySource.get(projectId, sha256);
      return stamp && soundOf(stamp);
    },
    /** Sounds that came in under a file's name. */
    byFile: (projectId: number, fileName: string) => byFile.all(projectId, fileName).map(soundOf),
    /** Names in use in a group. */
    names: (projectId: number, group: string) => names.all(projectId, group),
    setState: (id: number, state: SoundState, error: ErrorFacts | null = null) =>
      void setState.run(state, error && JSON.stringify(error), id),
    /** What a sound has now of the values that `of` names. */
    values<K extends keyof SoundValues>(id: number, of: readonly K[]): Pick<SoundValues, K> {
      const row = byId.get(id) as Record<string, unknown> | undefined;
      if (!row) throw new Error(`no sound ${id}`);
      return Object.fromEntries(
        of.map((name) => [
          name,
          name === 'sent'
            ? sending.of(id)
            : asJson.has(name)
              ? jsonOrNull(row[name] as string | null)
              : row[name],
        ]),
      ) as Pick<SoundValues, K>;
    },
    setValues(id: number, values: Partial<SoundValues>): void {
      for (const [name, value] of Object.entries(values) as [keyof SoundValues, unknown][]) {
        const isJson = asJson.has(name) && value !== null;
        if (name === 'sent') sending.set(id, value as Sent);
        else setValue[name].run(isJson ? JSON.stringify(value) : value, id);
      }
      // Where a sound is sent is nothing about the sound itself.
      if (Object.keys(values).some((name) => name !== 'sent')) edited.run(id);
    },
    /** The revision in which somebody changed it last. */
    editedAt: (id: number) => editedAt.get(id) ?? 0,
    /** Sounds that were joined of others. */
    joins: (projectId: number) => joins.all(projectId).map(soundOf),
    /** Sounds that came in and have not been read: taken out or not, given up for now or not. */
    beingRead: (projectId: number) => beingRead.all(projectId),
    /** Sounds with steps of which nobody has found out what comes of them. */
    ofUnknownOutcome: (projectId: number) => ofUnknownOutcome.all(projectId).map(soundOf),
    setOutcome: (id: number, outcome: Outcome) => void setOutcome.run(JSON.stringify(outcome), id),
    /** Gives a joined sound what it was joined to. */
    setJoined: (id: number, sourceSha256: string, joined: Joined) =>
      void setJoined.run(sourceSha256, JSON.stringify(joined), id),
    /** Lets a file that was to replace another stand beside it. */
    keepAsNew: (id: number) => void keepAsNew.run(id),
    /** What could not be read is looked at no more. */
    removeRefused: (projectId: number) =>
      void removeRefused.run(new Date().toISOString(), projectId),
    /** Deletes a sound with everything that hangs on it. Only for what nobody can want back. */
    forget(id: number): void {
      unassign.run(id);
      forget.run(id);
    },
    /** After changes were taken back, numbers of revisions are given again. */
    forgetKnown: () => known.clear(),
    /** Sounds that were taken out. */
    removed: (projectId: number) => removed.all(projectId),
    /** Undecided replacements of a sound. */
    replacing: (id: number) => replacing.all(id).map(soundOf),
    /** Sounds of any project that have not been read, or not yet. */
    unread: () => unread.all().map(soundOf),
  };
}
