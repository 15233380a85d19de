import { BijouError, fromErrorFacts } from '@/core/errors';
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

/** A sound whose file has been read. */
export type ReadSound = Sound & { facts: NonNullable<Sound['facts']> };

/** A sound of a project of which files can be made. @throws not-found, and what it was refused for */
export function readSound(
  db: Pick<Database, 'sounds'>,
  projectId: number,
  soundId: number,
): ReadSound {
  const sound = db.sounds.byId(soundId);
  if (sound?.projectId !== projectId || sound.removedAt !== null) {
    throw new BijouError('not-found', 'That sound is not there any more.', 'Choose another one.');
  }
  if (sound.error) throw fromErrorFacts(sound.error);
  if (sound.recipeProblem) throw fromErrorFacts(sound.recipeProblem);
  if (!sound.facts || sound.state === 'reading') {
    throw new BijouError('not-allowed', `“${sound.name}” is still being read.`, 'Wait a moment.');
  }
  return { ...sound, facts: sound.facts };
}
