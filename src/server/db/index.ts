import { changeStatements } from './changes';
import { intakeStatements } from './intakes';
import { jobStatements } from './jobs';
import { openDatabase } from './open';
import { packStatements } from './packs';
import { projectStatements } from './projects';
import { recipeStatements } from './recipes';
import { soundStatements } from './sounds';
import { sourceStatements } from './sources';

/** The database with the statements of every table. */
export function openTables(path: string) {
  const db = openDatabase(path);
  const sounds = soundStatements(db);
  return {
    projects: projectStatements(db),
    sources: sourceStatements(db),
    sounds,
    changes: changeStatements(db),
    recipes: recipeStatements(db),
    intakes: intakeStatements(db),
    packs: packStatements(db),
    jobs: jobStatements(db),
    /** All of `work` or nothing of it. */
    transaction<T>(work: () => T): T {
      try {
        return db.transaction(work).immediate();
      } catch (error) {
        sounds.forgetKnown();
        throw error;
      }
    },
    close: () => db.close(),
  };
}

export type Database = ReturnType<typeof openTables>;
