import type { Waste } from '@/wire';
import type { Context } from '../context';

/** Getting rid, for good, of what was taken out. Until then everything can be brought back. */
export function cleanUpService({ db, store, changed }: Context) {
  /** What a clean-up of a project would free. */
  function waste(projectId: number): Waste {
    const spare = db.sources.spare(projectId);
    return {
      removedSounds: db.sounds.removed(projectId).filter(({ state }) => state !== 'refused').length,
      replacedSources: spare.filter(({ isReplaced }) => isReplaced).length,
      bytes: spare.reduce((sum, { bytes }) => sum + bytes, 0),
    };
  }

  /** Deletes removed sounds, sources that nothing has any more, and the history that leads back to them. */
  async function cleanUp(projectId: number): Promise<Waste> {
    const freed = waste(projectId);
    const spare = db.sources.spare(projectId);
    db.transaction(() => {
      db.changes.clear(projectId);
      for (const { id } of db.sounds.removed(projectId)) db.sounds.forget(id);
      for (const { sha256 } of spare) db.sources.forget(sha256);
    });
    // The rows are gone first: a crash in between leaves files that nobody needs, not sounds without one.
    for (const { sha256 } of spare) await store.remove(sha256);
    changed(projectId);
    return freed;
  }

  return { waste, cleanUp };
}
