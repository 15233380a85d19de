import { candidateSetStatements } from './candidateSets';
import { cellFileStatements } from './cellFiles';
import { cellStatements } from './cells';
import { changeStatements } from './changes';
import { encodingStatements } from './encodings';
import { intakeStatements } from './intakes';
import { jobStatements } from './jobs';
import { madePackStatements } from './madePacks';
import { oneOffStatements } from './oneOffs';
import { openDatabase, openToRead } from './open';
import { orderStatements } from './orders';
import { ownBriefStatements } from './ownBriefs';
import { packStatements } from './packs';
import { packSettingStatements } from './packSettings';
import { projectStatements } from './projects';
import { recipeStatements } from './recipes';
import { rehearsalStatements } from './rehearsals';
import { retentionStatements } from './retention';
import { soundStatements } from './sounds';
import { sourceStatements } from './sources';
import { staleCellStatements } from './staleCells';
import { trialStatements } from './trials';
import { tryoutStatements } from './tryouts';

/** The database with the statements of every table. */
export function openTables(path: string, { isReadOnly = false } = {}) {
  const db = isReadOnly ? openToRead(path) : openDatabase(path);
  const sounds = soundStatements(db);
  const afterwards: (() => void)[] = [];
  let atEnd = (): void => undefined;

  /** Takes the log of changes over into the database: on a full disk that is room for the next one. */
  function makeRoom(): void {
    try {
      db.pragma('wal_checkpoint(TRUNCATE)');
    } catch {
      // Then it waits for somebody to make some.
    }
  }

  /** All of `work` or nothing of it. Inside of another one it is a part of that. */
  function transaction<T>(work: () => T): T {
    if (db.inTransaction) return db.transaction(work)();
    let result: T;
    try {
      result = db
        .transaction(() => {
          const made = work();
          atEnd();
          return made;
        })
        .immediate();
    } catch (error) {
      afterwards.length = 0;
      sounds.forgetKnown();
      if ((error as { code?: string }).code === 'SQLITE_FULL') makeRoom();
      throw error;
    }
    for (const act of afterwards.splice(0)) act();
    return result;
  }

  return {
    projects: projectStatements(db),
    sources: sourceStatements(db),
    sounds,
    cells: cellStatements(db),
    cellFiles: cellFileStatements(db),
    staleCells: staleCellStatements(db),
    changes: changeStatements(db),
    recipes: recipeStatements(db),
    intakes: intakeStatements(db),
    packs: packStatements(db),
    orders: orderStatements(db),
    packSettings: packSettingStatements(db),
    madePacks: madePackStatements(db),
    rehearsals: rehearsalStatements(db),
    encodings: encodingStatements(db),
    oneOffs: oneOffStatements(db),
    ownBriefs: ownBriefStatements(db),
    tryouts: tryoutStatements(db),
    trials: trialStatements(db),
    candidateSets: candidateSetStatements(db),
    jobs: jobStatements(db),
    retention: retentionStatements(db),
    transaction,
    /** What `work` reads, all of it as it is at one moment. */
    reading: <T>(work: () => T): T => db.transaction(work)(),
    /** What is done at the end of every transaction, as a part of it. */
    beforeCommit: (act: () => void) => void (atEnd = act),
    /** Does something as soon as what is being written has been written; never if it comes to nothing. */
    afterCommit(act: () => void): void {
      if (db.inTransaction) afterwards.push(act);
      else act();
    },
    /** What `work` would answer; nothing of it is done. */
    rehearse<T>(work: () => T): T {
      let result: { value: T } | undefined;
      try {
        transaction(() => {
          result = { value: work() };
          throw NOT_MEANT;
        });
      } catch (error) {
        if (error !== NOT_MEANT) throw error;
      }
      return result!.value;
    },
    close: () => db.close(),
  };
}

const NOT_MEANT = new Error('only rehearsed');

export type Database = ReturnType<typeof openTables>;
