import { changeStatements } from './changes';
import { intakeStatements } from './intakes';
import { jobStatements } from './jobs';
import { openDatabase } from './open';
import { packStatements } from './packs';
import { projectStatements } from './projects';
import { soundStatements } from './sounds';
import { sourceStatements } from './sources';

/** The database with the statements of every table. */
export function openTables(path: string) {
  const db = openDatabase(path);
  return {
    projects: projectStatements(db),
    sources: sourceStatements(db),
    sounds: soundStatements(db),
    changes: changeStatements(db),
    intakes: intakeStatements(db),
    packs: packStatements(db),
    jobs: jobStatements(db),
    /** All of `work` or nothing of it. */
    transaction: <T>(work: () => T): T => db.transaction(work).immediate(),
    close: () => db.close(),
  };
}

export type Database = ReturnType<typeof openTables>;
