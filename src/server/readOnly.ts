import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { builtinBriefs } from '@/core/brief/builtin';
import { BijouError } from '@/core/errors';
import { either } from '@/core/tradeNames';
import type { Project } from '@/wire';
import { openTables } from './db';
import { FileStore } from './files/store';
import { cellsAnewService } from './services/cellsAnew';

/**
 * A data folder that is only looked at, beside whatever works in it: nothing of it is changed and nothing is locked.
 * @throws not-found where there is none, not-allowed for one of another version
 */
export function openForReading(dataDir: string) {
  const path = join(dataDir, 'bijou.db');
  if (!existsSync(path)) {
    throw new BijouError(
      'not-found',
      `There is no project in ${dataDir}.`,
      'Point BIJOU_DATA to the data folder of Bijou.',
    );
  }
  const db = openTables(path, { isReadOnly: true });
  const briefs = (projectId: number) => [...builtinBriefs, ...db.ownBriefs.of(projectId)];
  return {
    dataDir,
    db,
    briefs,
    store: new FileStore(dataDir),
    cells: cellsAnewService({ db, briefs }),
    /** By its name or its id. @throws not-found with the projects there are. */
    project(named: string): Project {
      const all = db.projects.all();
      const found = all.filter(({ id, name }) => name === named || String(id) === named);
      // A name that is a number means the project of that name.
      const project = found.find(({ name }) => name === named) ?? found[0];
      if (project) return project;
      throw new BijouError(
        'not-found',
        `There is no project "${named}".`,
        all.length === 0
          ? 'Make one first: start Bijou.'
          : `There is ${either(all.map(({ id, name }) => `"${name}" (${id})`))}.`,
      );
    },
    close: () => db.close(),
  };
}

export type ReadOnlyBijou = ReturnType<typeof openForReading>;
