import type { NeedInShort, Verdict } from '@/core/brief/cell';
import type { GivenName } from '@/core/pack/naming';
import type { Flag } from './cells';
import type { Db } from './open';

/** Which file, of which cell. */
interface At {
  cellId: number;
  fileId: string;
}

/** What a file of a cell is to be. */
export interface CellFile {
  fileId: string;
  /** Of its plan; null where nobody can say how it is made. */
  key: string | null;
  /** What its name is made of, as JSON; and whether it hangs on how many go there before it. */
  naming: string;
  isCounted: boolean;
  sizeKey: string | null;
}

/** The name of a file. */
export type CellName = Omit<GivenName, 'key'> & { given: string };
export type NamedFile = CellName & At & { naming: string };

/** What is finished of a file and up to date; null for nothing. */
export interface FileDone {
  sha256: string | null;
  verdict: Verdict | null;
  clips: boolean;
  bytes: number;
  bytesPerSecond: number | null;
}

/** A file with what it is to be and what is finished of it. */
export interface CellFileRow extends Pick<CellFile, 'key'>, FileDone, At {
  meets: boolean;
  path: string;
}

/** Where a file lies that a pack takes, and whose it is. */
interface FileInPlace extends At {
  soundId: number;
  paths: readonly string[];
  name: string;
  group: string;
  seconds: number;
  /** What it was chosen for. */
  slots: readonly string[];
}

/** A file as a pack takes it, with what packs know of its sound. */
export interface FileForPack
  extends FileInPlace, Pick<CellFileRow, 'key' | 'path' | 'meets' | 'sha256'> {
  /** Why it cannot be built, apart from its name; told where it is not accepted, as `wasMade`. */
  obstacle: NeedInShort['obstacle'];
  verdict: Verdict | null;
  /** What manifests say of it, as JSON. */
  told: string | null;
  wasMade: boolean;
  labels: string[];
  language: string | null;
  tempo: unknown;
  isJoined: boolean;
}

/** What the size of a file hangs on that a sound gives to a destination. */
export interface SizedFile {
  soundId: number;
  briefId: string;
  sizeKey: string;
}

type StoredName = Omit<NamedFile, 'paths' | 'meets' | 'passed'> & {
  paths: string | null;
  meets: Flag;
  passed: Flag;
};
/** Where a file lies, column by column: objects that the driver makes of ten thousand rows are slow to make and to read. */
type StoredPlace = [
  ...[cellId: number, soundId: number, fileId: string, path: string, paths: string | null],
  ...[name: string, group: string, seconds: number, slots: string | null],
];
type StoredForPack = [
  ...StoredPlace,
  ...[key: string | null, meets: Flag, sha256: string | null, verdict: Verdict | null],
  ...[told: string | null, labels: string, language: string | null, tempo: string | null],
  ...[isJoined: Flag, obstacle: string | null, wasMade: Flag],
];

const flag = (value: boolean): Flag => (value ? 1 : 0);
const pathsOf = (paths: string | null, path: string) =>
  paths === null ? [path] : (JSON.parse(paths) as string[]);

const reviveName = ({ paths, meets, passed, ...row }: StoredName): NamedFile => ({
  ...row,
  paths: pathsOf(paths, row.path),
  meets: meets === 1,
  passed: passed === 1,
});

const read = (text: string | null) => (text === null ? null : (JSON.parse(text) as unknown));

const listOf = (text: string | null): string[] =>
  text === null || text === '[]' ? [] : (JSON.parse(text) as string[]);

const revivePlace = (...row: StoredPlace): FileInPlace => {
  const [cellId, soundId, fileId, path, paths, name, group, seconds, slots] = row;
  return {
    ...{ cellId, soundId, fileId, name, group, seconds },
    ...{ paths: pathsOf(paths, path), slots: listOf(slots) },
  };
};

const reviveForPack = (row: StoredForPack): FileForPack => {
  const [cellId, soundId, fileId, path, paths, name, group, seconds, slots, ...more] = row;
  const [key, meets, sha256, verdict, told, labels, language, tempo, ...flags] = more;
  const [isJoined, obstacle, wasMade] = flags;
  return {
    ...revivePlace(cellId, soundId, fileId, path, paths, name, group, seconds, slots),
    ...{ path, key, sha256, verdict, told, language },
    obstacle: read(obstacle) as FileForPack['obstacle'],
    labels: listOf(labels),
    tempo: read(tempo),
    meets: meets === 1,
    wasMade: wasMade === 1,
    isJoined: isJoined === 1,
  };
};

/** Statements on the files of cells: what each is to be, where it lies, and what is finished of it. */
export function cellFileStatements(db: Db) {
  const drop = db.prepare<[number, string]>(
    'DELETE FROM cellFiles WHERE cellId = ? AND fileId NOT IN (SELECT value FROM json_each(?))',
  );
  const put = db.prepare<
    [Omit<CellFile, 'isCounted'> & At & { projectId: number; briefId: string; counted: Flag }]
  >(
    `INSERT INTO cellFiles (cellId, fileId, projectId, briefId, key, naming, counted, sizeKey)
     VALUES (@cellId, @fileId, @projectId, @briefId, @key, @naming, @counted, @sizeKey)
     ON CONFLICT (cellId, fileId) DO UPDATE SET key = @key, naming = @naming, counted = @counted,
       sizeKey = @sizeKey, sha256 = NULL, verdict = NULL, clips = 0, bytes = 0, told = NULL, bytesPerSecond = NULL`,
  );
  const setDone = db.prepare<[Omit<FileDone, 'clips'> & At & { clips: Flag; told: string | null }]>(
    `UPDATE cellFiles SET sha256 = @sha256, verdict = @verdict, clips = @clips, bytes = @bytes,
       bytesPerSecond = @bytesPerSecond, told = @told WHERE cellId = @cellId AND fileId = @fileId`,
  );
  const ofCells = db.prepare<
    [string],
    Omit<CellFileRow, 'meets' | 'clips'> & { meets: Flag; clips: Flag }
  >(
    `SELECT cellId, fileId, key, meets, path, sha256, verdict, clips, bytes, bytesPerSecond FROM cellFiles
     WHERE cellId IN (SELECT value FROM json_each(?))`,
  );
  const PLACE = `cellId, cells.soundId, fileId, path, paths, sounds.name, "group", seconds, choices -> '$.slots'`;
  const PLACES = `FROM cells JOIN cellFiles ON cellId = cells.id JOIN assignments ON assignments.id = cells.id
       JOIN sounds ON sounds.id = cells.soundId
     WHERE cells.projectId = ? AND cells.briefId = ? AND isListed = 1 ORDER BY cells.id`;
  const placed = db.prepare<[number, string], StoredPlace>(`SELECT ${PLACE} ${PLACES}`).raw();
  const forPack = db
    .prepare<[number, string], StoredForPack>(
      `SELECT ${PLACE}, key, meets, cellFiles.sha256, verdict, told, labels, language, tempo,
       "join" IS NOT NULL, iif(verdict = 'accepted', NULL, need -> '$.obstacle'),
       verdict IS NOT 'accepted' AND EXISTS (SELECT 1 FROM outputs WHERE assignmentId = cells.id)
     ${PLACES}`,
    )
    .raw();
  // By way of what has an index of sounds.
  const sized = db.prepare<[string], SizedFile>(
    `SELECT soundId, cellFiles.briefId, sizeKey
     FROM assignments JOIN cellFiles ON cellId = assignments.id
     WHERE soundId IN (SELECT value FROM json_each(?)) AND sizeKey IS NOT NULL ORDER BY cellId`,
  );
  const NAME = 'cellId, fileId, naming, wanted, given, passed, meets, name, path, paths';
  const names = db.prepare<[string], StoredName>(
    `SELECT ${NAME} FROM cellFiles WHERE cellId IN (SELECT value FROM json_each(?))`,
  );
  const namesOfBrief = db.prepare<[number, string], StoredName>(
    `SELECT ${NAME} FROM cellFiles WHERE projectId = ? AND briefId = ? ORDER BY cellId`,
  );
  const setName = db.prepare<[Omit<StoredName, 'naming'>]>(
    `UPDATE cellFiles SET wanted = @wanted, given = @given, passed = @passed, meets = @meets, name = @name,
       path = @path, paths = @paths WHERE cellId = @cellId AND fileId = @fileId`,
  );
  const THERE = 'SELECT 1 FROM cellFiles WHERE projectId = @projectId AND briefId = @briefId';
  const isTaken = db
    .prepare<[At & { projectId: number; briefId: string; key: string }], Flag>(
      `SELECT EXISTS (${THERE} AND wanted = @key AND (cellId, fileId) <> (@cellId, @fileId))
         OR EXISTS (${THERE} AND given = @key AND given <> wanted AND (cellId, fileId) <> (@cellId, @fileId))`,
    )
    .pluck();
  const isPassing = db
    .prepare<[{ projectId: number; briefId: string }], Flag>(
      `SELECT EXISTS (${THERE} AND passed = 1) OR EXISTS (${THERE} AND wanted = '' AND path <> '')`,
    )
    .pluck();
  const hasCounted = db
    .prepare<[{ projectId: number; briefId: string }], Flag>(
      `SELECT EXISTS (${THERE} AND counted = 1)`,
    )
    .pluck();
  const alike = db
    .prepare<[number, string, number], number>(
      'SELECT bytesPerSecond FROM cellFiles WHERE projectId = ? AND sizeKey = ? AND bytesPerSecond IS NOT NULL LIMIT ?',
    )
    .pluck();
  return {
    /** Writes down what the files of a cell are to be; what was finished of them is judged anew. */
    put(
      { id: cellId, projectId, briefId }: { id: number; projectId: number; briefId: string },
      files: readonly CellFile[],
    ): void {
      drop.run(cellId, JSON.stringify(files.map(({ fileId }) => fileId)));
      for (const { isCounted, ...file } of files) {
        put.run({ cellId, projectId, briefId, ...file, counted: flag(isCounted) });
      }
    },
    drop: (cellId: number) => void drop.run(cellId, '[]'),
    /** Writes down what is finished, with what manifests can say of it. */
    setDone: ({ cellId, fileId }: At, { clips, ...done }: FileDone, told: unknown) =>
      void setDone.run({
        ...{ cellId, fileId, ...done, clips: flag(clips) },
        told: told === null ? null : JSON.stringify(told),
      }),
    of: (cellIds: readonly number[]): CellFileRow[] =>
      ofCells
        .all(JSON.stringify(cellIds))
        .map(({ meets, clips, ...row }) => ({ ...row, meets: meets === 1, clips: clips === 1 })),
    placed: (projectId: number, briefId: string): FileInPlace[] =>
      placed.all(projectId, briefId).map((row) => revivePlace(...row)),
    forPack: (projectId: number, briefId: string): FileForPack[] =>
      forPack.all(projectId, briefId).map(reviveForPack),
    names: (cellIds: readonly number[]) => names.all(JSON.stringify(cellIds)).map(reviveName),
    /** In the order in which they are counted. */
    namesOfBrief: (projectId: number, briefId: string) =>
      namesOfBrief.all(projectId, briefId).map(reviveName),
    setName: (at: At, { paths, meets, passed, ...name }: CellName) =>
      void setName.run({
        ...{ cellId: at.cellId, fileId: at.fileId },
        ...{ ...name, meets: flag(meets), passed: flag(passed) },
        paths: paths.length === 1 && paths[0] === name.path ? null : JSON.stringify(paths),
      }),
    /** Whether other files of a destination have a name, or would have it alone. */
    isNameTaken: (at: At & { projectId: number; briefId: string; key: string }) =>
      isTaken.get(at) === 1,
    /** Whether files of a destination fill slots, or passed over names of others. */
    isPassing: (projectId: number, briefId: string) => isPassing.get({ projectId, briefId }) === 1,
    /** Whether names of files of a destination hang on how many go there before them. */
    hasCounted: (projectId: number, briefId: string) =>
      hasCounted.get({ projectId, briefId }) === 1,
    sized: (soundIds: readonly number[]) => sized.all(JSON.stringify(soundIds)),
    /** What finished files that are alike came to a second, of a few. */
    bytesPerSecond: (projectId: number, sizeKey: string, most: number) =>
      alike.all(projectId, sizeKey, most),
  };
}
