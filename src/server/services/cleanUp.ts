import type { Waste } from '@/wire';
import type { Context } from '../context';
import type { DeletionService } from './deleting';
import type { EncodingService } from './encodings';
import type { SoundService } from './sounds';

/** Getting rid, for good, of what was taken out. Until then everything can be brought back. */
export function cleanUpService(
  { db, store, changed }: Context,
  sounds: SoundService,
  { release, carryOut }: DeletionService,
  encodings: EncodingService,
) {
  /** Forgets what was taken out, and the history that leads back to it. Answers what nothing needs then. */
  function forget(projectId: number) {
    const removed = db.sounds.removed(projectId);
    const icons = db.packSettings.icons(projectId);
    db.changes.clear(projectId);
    db.packs.dropReleased(projectId);
    for (const { id } of removed) {
      // With the old sound gone for good, there is nothing to replace.
      for (const newcomer of db.sounds.replacing(id)) sounds.letStand(newcomer);
      db.sounds.forget(id);
    }
    const sources = db.sources.loose().filter((sha256) => !db.retention.isHeld(sha256));
    const earlierBuilds = db.packs.dropEarlier(projectId);
    const packs = db.madePacks.removedOf(projectId);
    const ofPacks = packs.flatMap((id) => db.madePacks.files(id).map(({ sha256 }) => sha256));
    for (const id of packs) db.madePacks.forget(id);
    const outputs = encodings.sweep().filter((sha256) => !db.retention.isHeld(sha256));
    const wereSounds = removed.filter(({ state }) => state !== 'refused');
    const ofRemoved = new Set(removed.map(({ sourceSha256 }) => sourceSha256));
    return {
      removedSounds: wereSounds.length,
      replacedSources: sources.filter((sha256) => !ofRemoved.has(sha256)).length,
      earlierBuilds,
      removedPacks: packs.length,
      hashes: [
        ...new Set([
          ...sources,
          ...outputs,
          ...[...ofPacks, ...icons].filter((sha256) => !db.retention.isHeld(sha256)),
        ]),
      ],
    };
  }

  async function bytesOf(hashes: readonly string[]): Promise<number> {
    const sizes = await Promise.all(hashes.map((sha256) => store.bytesOf(sha256)));
    return sizes.reduce((sum, bytes) => sum + bytes, 0);
  }

  /** What a clean-up of a project would free: with pictures, working copies and what was built of it. */
  async function waste(projectId: number): Promise<Waste> {
    const { hashes, ...counts } = db.rehearse(() => forget(projectId));
    return { ...counts, bytes: await bytesOf(hashes) };
  }

  /** Deletes removed sounds and packs, what nothing has any more, and the history that leads back to them. */
  async function cleanUp(projectId: number): Promise<Waste> {
    const freed = await waste(projectId);
    db.transaction(() => {
      release(...forget(projectId).hashes);
      changed(projectId);
    });
    await carryOut();
    return freed;
  }

  return { waste, cleanUp };
}
