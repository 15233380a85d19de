import { BijouError } from '@/core/errors';
import { freeSoundName } from '@/core/pack/names';
import type { Join } from '@/core/join/plan';
import type { Project, RemovedProject } from '@/wire';
import type { Context } from '../context';
import type { Twin } from '../db/projects';
import type { DeletionService } from './deleting';
import type { EncodingService } from './encodings';
import { projectById } from './lookUp';

/** So many sounds, or cells, are copied in one breath: many rows share the pages that are written for them. */
const COPIED_AT_ONCE = 500;

/** Projects as a whole: begun, renamed, copied, deleted and brought back. */
export function projectService(
  { db, changed, pump }: Context,
  { release, carryOut }: DeletionService,
  encodings: EncodingService,
) {
  const known = (id: number): Project => projectById(db, id);

  function rename(id: number, name: string): Project {
    known(id);
    db.projects.rename(id, name);
    changed(id);
    return known(id);
  }

  /**
   * The same sounds, recipes and destinations once more; nothing is read or built again for it. It is made a part at
   * a time, and seen when it is whole.
   */
  async function copy(id: number): Promise<Project> {
    const { name } = known(id);
    const { project, buildId, since } = db.transaction(() => {
      const made = db.projects.add(freeSoundName(`${name} copy`, db.projects.names()));
      db.projects.setPartial(made, true);
      db.projects.copyLayout(id, made);
      db.ownBriefs.copy(id, made);
      const since = db.sounds.revision();
      return { project: made, buildId: db.packs.addBuild(made), since };
    });
    const twins = new Map<number, Twin>();
    await inPieces(db.projects.listed(id), (some) =>
      some.forEach((soundId) => twins.set(soundId, copySound(soundId, project))),
    );
    // In the order in which they came: names are numbered in it.
    const sent = db.projects.sent(id).flatMap(([assignmentId, soundId]) => {
      const twin = twins.get(soundId);
      return twin ? [[assignmentId, twin.id] as const] : [];
    });
    await inPieces(sent, (some) =>
      db.projects.copyCells(some, { projectId: project, buildId, since }),
    );
    db.transaction(() => {
      for (const twin of twins.values()) joinTwins(twin, twins);
      copyPackSettings(id, project, twins);
      db.packs.dropEmptyBuilds();
      db.projects.setPartial(project, false);
      changed(project);
    });
    pump();
    return known(project);
  }

  /** Forgets copies that came to no end. Call at a start. */
  function forgetPartial(): void {
    for (const id of db.projects.partial()) db.projects.forget(id);
  }

  /** Writes down something about each of many, with turns for others in between. */
  async function inPieces<T>(
    all: readonly T[],
    write: (some: readonly T[]) => void,
  ): Promise<void> {
    for (let from = 0; from < all.length; from += COPIED_AT_ONCE) {
      db.transaction(() => write(all.slice(from, from + COPIED_AT_ONCE)));
      await new Promise((others) => setImmediate(others));
    }
  }

  function copySound(soundId: number, project: number): Twin {
    const twin = db.projects.copySound(soundId, project);
    if (twin.isBeingRead && !twin.join) db.jobs.add(project, 'read', twin.id);
    return twin;
  }

  /** A copied join is made of the copies. */
  function joinTwins({ id, join }: Twin, twins: ReadonlyMap<number, Twin>): void {
    if (!join) return;
    const own: Join = {
      ...join,
      parts: join.parts.map((part) => ({ ...part, soundId: twins.get(part.soundId)?.id ?? 0 })),
    };
    db.projects.setJoin(id, own);
  }

  /** Calls of a copy play the copies. */
  function copyPackSettings(from: number, to: number, twins: ReadonlyMap<number, Twin>): void {
    for (const [briefId, { calls, ...rest }] of db.packSettings.all(from)) {
      const own = calls?.map((call) => ({
        ...call,
        variants: call.variants.map(({ soundId, odds }) => ({
          soundId: twins.get(soundId)?.id ?? 0,
          odds,
        })),
      }));
      db.packSettings.set(to, briefId, own ? { ...rest, calls: own } : rest);
    }
  }

  /** Deletes a project: it is in no list any more, and all its bytes stay until they are let go. */
  function remove(id: number): void {
    known(id);
    db.projects.remove(id);
    changed(id);
  }

  /** @throws not-found when its bytes have been let go. */
  function bringBack(id: number): Project {
    removedById(id);
    db.projects.bringBack(id);
    changed(id);
    return known(id);
  }

  /** Lets a deleted project go for good, with all bytes that nothing else needs. */
  async function letGo(id: number): Promise<void> {
    removedById(id);
    db.transaction(() => {
      const ofPacks = [...db.madePacks.filesOfProject(id), ...db.packSettings.icons(id)];
      db.projects.forget(id);
      encodings.sweep();
      release(...db.sources.loose(), ...ofPacks);
    });
    await carryOut();
  }

  function removedById(id: number): RemovedProject {
    const found = db.projects.removed().find((one) => one.id === id);
    if (found) return found;
    throw new BijouError(
      'not-found',
      'That project is not there any more.',
      'Choose one from the list.',
    );
  }

  return {
    byId: db.projects.byId,
    all: db.projects.all,
    removed: db.projects.removed,
    add: db.projects.add,
    setLayout: db.projects.setLayout,
    rename,
    copy,
    forgetPartial,
    remove,
    bringBack,
    letGo,
  };
}
