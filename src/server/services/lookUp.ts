import { BijouError } from '@/core/errors';
import type { Project, Sound } from '@/wire';
import type { Database } from '../db';

/** @throws not-found */
export function soundById(db: Pick<Database, 'sounds'>, id: number): Sound {
  const sound = db.sounds.byId(id);
  if (sound) return sound;
  throw new BijouError('not-found', 'That sound is not there any more.', 'Go back to Collect.');
}

/** @throws not-found */
export function projectById(db: Pick<Database, 'projects'>, id: number): Project {
  const project = db.projects.byId(id);
  if (project) return project;
  throw new BijouError('not-found', 'There is no such project.', 'Choose one from the list.');
}
