import type { NeedInShort, WorkState } from '@/core/brief/cell';
import type { Cell } from '@/wire';
import type { Db } from './open';

/** A cell as it is stored, beside what is told of it. */
export interface CellRow extends Cell {
  projectId: number;
  isListed: boolean;
  /** What its need was worked out from; null where that is not known. */
  basis: string | null;
  need: NeedInShort;
  /** Of the source. */
  seconds: number;
}

/** The newest output of a file, with how far its encoding is. */
export interface NewestOutput {
  assignmentId: number;
  fileId: string;
  encodingId: number;
  key: string;
  state: WorkState;
  sha256: string | null;
}

export type Flag = 0 | 1;
type Stored = Omit<CellRow, 'need' | 'isListed' | 'clips'> & {
  need: string;
  isListed: Flag;
  clips: Flag;
};

const TOLD = 'id, soundId, briefId, state, finished, missing, bytes, clips, rehearsed, revision';
type Counts = [finished: number, missing: number, bytes: number];
type Told = [
  ...[id: number, soundId: number, briefId: string, state: Cell['state'], ...Counts],
  ...[clips: Flag, rehearsed: string | null, revision: number],
];

function toldOf(row: Told | readonly [...Told, Flag]): Cell {
  const [id, soundId, briefId, state, finished, missing, bytes, clips, rehearsed, revision] = row;
  return {
    ...{ id, soundId, briefId, state, finished, missing, bytes },
    ...{ clips: clips === 1, rehearsed, revision },
  };
}

type Judged = Pick<
  Cell,
  'id' | 'state' | 'finished' | 'missing' | 'bytes' | 'clips' | 'rehearsed' | 'revision'
>;
type Needed = Pick<
  CellRow,
  'id' | 'projectId' | 'soundId' | 'briefId' | 'revision' | 'basis' | 'need' | 'seconds'
>;

/** Statements on sounds at destinations: what each comes to. */
export function cellStatements(db: Db) {
  // As arrays: there are very many.
  const told = (where: string) => db.prepare<unknown[], Told>(`SELECT ${TOLD} FROM cells ${where}`);
  const ofProject = told('WHERE projectId = ? AND isListed = 1 ORDER BY id').raw();
  const ofSounds = told(
    `WHERE id IN (SELECT id FROM assignments WHERE soundId IN (SELECT value FROM json_each(?)))
       AND isListed = 1 ORDER BY id`,
  ).raw();
  const since = db
    .prepare<[number, number], [...Told, Flag]>(
      `SELECT ${TOLD}, isListed FROM cells WHERE projectId = ? AND revision > ? ORDER BY id`,
    )
    .raw();
  const idsOf = db
    .prepare<[number], number>(
      'SELECT id FROM cells WHERE projectId = ? AND isListed = 1 ORDER BY id',
    )
    .pluck();
  const ofBrief = db
    .prepare<[number, string], number>(
      'SELECT id FROM cells WHERE projectId = ? AND briefId = ? AND isListed = 1 ORDER BY id',
    )
    .pluck();
  const stampOf = db
    .prepare<[number, string], string>(
      `SELECT max(revision) || ' ' || count(*) FILTER (WHERE isListed = 1) FROM cells
       WHERE projectId = ? AND briefId = ?`,
    )
    .pluck();
  const isOpen = db
    .prepare<[{ projectId: number; briefIds: string }], Flag>(
      `SELECT EXISTS (SELECT 1 FROM cells WHERE projectId = @projectId AND state IN ('working', 'checking')
           AND isListed = 1 AND briefId IN (SELECT value FROM json_each(@briefIds)))
         OR EXISTS (SELECT 1 FROM orders JOIN cells ON cells.id = assignmentId
           WHERE projectId = @projectId AND briefId IN (SELECT value FROM json_each(@briefIds)))`,
    )
    .pluck();
  const unobstructed = db
    .prepare<[string], number>(
      `SELECT id FROM cells WHERE id IN (SELECT value FROM json_each(?)) AND isListed = 1
         AND need ->> '$.obstacle' IS NULL ORDER BY id`,
    )
    .pluck();
  const byIds = db.prepare<[string], Stored>(
    'SELECT * FROM cells WHERE id IN (SELECT value FROM json_each(?))',
  );
  const projectsOf = db
    .prepare<[string], number>(
      'SELECT DISTINCT projectId FROM cells WHERE id IN (SELECT value FROM json_each(?))',
    )
    .pluck();
  const nextRevision = db
    .prepare<[], number>('UPDATE revisions SET latest = latest + 1 RETURNING latest')
    .pluck();
  const put = db.prepare<[Omit<Needed, 'need'> & { need: string }]>(
    `INSERT INTO cells (id, projectId, soundId, briefId, isListed, basis, need, seconds, state, revision)
     VALUES (@id, @projectId, @soundId, @briefId, 1, @basis, @need, @seconds, 'checking', @revision)
     ON CONFLICT (id) DO UPDATE SET isListed = 1, basis = @basis, need = @need, seconds = @seconds,
       revision = @revision`,
  );
  const unlist = db.prepare<[number, number]>(
    'UPDATE cells SET isListed = 0, basis = NULL, revision = ? WHERE id = ? AND isListed = 1',
  );
  const judge = db.prepare<[Omit<Judged, 'clips'> & { clips: Flag }]>(
    `UPDATE cells SET state = @state, finished = @finished, missing = @missing, bytes = @bytes,
       clips = @clips, rehearsed = @rehearsed, revision = @revision WHERE id = @id`,
  );
  const newest = db.prepare<[string], NewestOutput>(
    `SELECT assignmentId, fileId, encodingId, key, state, sha256 FROM outputs
       JOIN encodings ON encodings.id = encodingId
     WHERE outputs.id IN (SELECT max(id) FROM outputs
       WHERE assignmentId IN (SELECT value FROM json_each(?)) GROUP BY assignmentId, fileId)`,
  );
  const revive = ({ need, isListed, clips, ...row }: Stored): CellRow => ({
    ...row,
    need: JSON.parse(need) as NeedInShort,
    isListed: isListed === 1,
    clips: clips === 1,
  });
  return {
    of: (projectId: number): Cell[] => ofProject.all(projectId).map(toldOf),
    ofSounds: (soundIds: readonly number[]): Cell[] =>
      ofSounds.all(JSON.stringify(soundIds)).map(toldOf),
    /** Those that are other than at `revision`; those that left the list are named only. */
    since(projectId: number, revision: number): { changed: Cell[]; gone: number[] } {
      const rows = since.all(projectId, revision);
      return {
        changed: rows.filter((row) => row.at(-1) === 1).map(toldOf),
        gone: rows.filter((row) => row.at(-1) === 0).map(([id]) => id),
      };
    },
    idsOf: (projectId: number) => idsOf.all(projectId),
    /** What goes to a destination. */
    ofBrief: (projectId: number, briefId: string) => ofBrief.all(projectId, briefId),
    /** Another text whenever anything of what goes to a destination is other. */
    stampOf: (projectId: number, briefId: string) => stampOf.get(projectId, briefId)!,
    /** Whether anything of these destinations is being made, is to be, or is not known to be made. */
    isOpen: (projectId: number, briefIds: readonly string[]) =>
      isOpen.get({ projectId, briefIds: JSON.stringify(briefIds) }) === 1,
    /** Those of some that nothing is known to stand in the way of. */
    unobstructed: (ids: readonly number[]) => unobstructed.all(JSON.stringify(ids)),
    byIds: (ids: readonly number[]): CellRow[] => byIds.all(JSON.stringify(ids)).map(revive),
    projectsOf: (ids: readonly number[]) => projectsOf.all(JSON.stringify(ids)),
    nextRevision: () => nextRevision.get()!,
    /** Writes down what a cell needs. */
    put: ({ need, ...row }: Needed) => void put.run({ ...row, need: JSON.stringify(need) }),
    /** It is in no list any more. */
    unlist: (id: number, revision: number) => void unlist.run(revision, id),
    /** Writes down what has come of a cell. */
    judge: ({ clips, ...row }: Judged) => void judge.run({ ...row, clips: clips ? 1 : 0 }),
    newestOutputs: (ids: readonly number[]) => newest.all(JSON.stringify(ids)),
  };
}
