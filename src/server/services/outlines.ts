import { createHash } from 'node:crypto';
import { briefById, storedBrief } from '@/core/brief/catalogue';
import type { KeptFile } from '@/core/pack/changes';
import type { Context } from '../context';
import type { LaidOut } from '../work/outlinePack';
import type { PackSource, Settled } from '../work/packSource';
import type { PlannedPack } from '../work/planPack';
import type { RunOptions } from '../work/pool';
import type { PlanTask } from '../work/tasks';
import type { CellRowService } from './cellRows';
import { projectById } from './lookUp';

/** Looking at packs as they would be made now. Threads read what there is and lay it out; here it is only asked for. */
export function outlineService(
  { db, store, briefs, planner }: Context,
  rows: Pick<CellRowService, 'settleBrief'>,
) {
  /** What decides what some destinations get, apart from what was built for them. @throws not-found */
  function sourceOf(projectId: number, briefIds: readonly string[]): PackSource {
    const { name: project } = projectById(db, projectId);
    const catalogue = briefs(projectId);
    const parts = [...new Set(briefIds)].map((id) => {
      const brief = storedBrief(catalogue, id);
      return { brief, settings: db.packSettings.of(projectId, id) };
    });
    return { dataDir: store.dataDir, projectId, project, parts };
  }

  /** Has rows of some destinations worked out that are out of date. */
  async function settle(projectId: number, briefIds: readonly string[]): Promise<void> {
    for (const id of briefIds) await rows.settleBrief(projectId, id);
  }

  /** Has a thread answer something of what destinations get, of everything as it is at one moment. @throws not-found */
  async function asked<Answer extends Settled>(
    projectId: number,
    briefIds: readonly string[],
    ask: (source: PackSource) => Promise<Answer>,
  ): Promise<Answer> {
    for (;;) {
      await settle(projectId, briefIds);
      const source = sourceOf(projectId, briefIds);
      const answer = await ask(source);
      const isSame = () => JSON.stringify(sourceOf(projectId, briefIds)) === JSON.stringify(source);
      if (answer.isSettled && isSame()) return answer;
    }
  }

  /** Lays a pack out, file by file. @throws not-found, too-slow, memory */
  const plan = (
    projectId: number,
    briefIds: readonly string[],
    content: PlanTask['content'],
    options?: Partial<RunOptions>,
  ): Promise<PlannedPack> =>
    asked(projectId, briefIds, (source) =>
      planner().ask({ kind: 'plan', source, content }, options),
    );

  // A screen asks again with every piece of news, and few of them are of its pack.
  let latest: { stamp: string; laid: LaidOut } | null = null;

  /** What some destinations get, laid out; until something of it is other, the same object. @throws as `plan` */
  async function look(projectId: number, briefIds: readonly string[]): Promise<LaidOut> {
    await settle(projectId, briefIds);
    const newest = newestOf(projectId, briefIds);
    const stamp = stampOf(projectId, briefIds, newest);
    if (latest?.stamp === stamp) return latest.laid;
    const laid = await asked(projectId, briefIds, (source) =>
      planner().ask({ kind: 'outline', source, newest }),
    );
    latest = { stamp, laid };
    return laid;
  }

  /** Everything that decides what a pack holds, in short. */
  function stampOf(projectId: number, briefIds: readonly string[], newest: unknown): string {
    const cells = briefIds.map((id) => db.cells.stampOf(projectId, id));
    const decided = [sourceOf(projectId, briefIds), db.sounds.latestOf(projectId), cells, newest];
    return createHash('sha256').update(JSON.stringify(decided)).digest('base64url');
  }

  /** The newest finished pack of the same destinations. */
  function newestOf(projectId: number, briefIds: readonly string[]) {
    const key = keyOf(briefIds);
    const found = db.madePacks
      .of(projectId)
      .find(({ state, briefs: ids }) => state === 'done' && keyOf(ids) === key);
    return found ? { id: found.id, digest: found.digest } : null;
  }

  return {
    settle,
    sourceOf,
    asked,
    plan,
    look,
    /** A `PackOutline` as JSON in UTF-8. @throws as `plan` */
    async outline(projectId: number, briefIds: readonly string[]): Promise<Uint8Array> {
      for (const id of briefIds) briefById(briefs(projectId), id);
      return (await look(projectId, briefIds)).outline;
    },
  };
}

export type OutlineService = ReturnType<typeof outlineService>;

/** The files of a plan under their addresses. */
export function keptFiles({ entries }: Pick<PlannedPack, 'entries'>): KeptFile[] {
  return entries.map(({ path, sha256, bytes }) => ({ path, bytes, sha256 }));
}

const keyOf = (briefIds: readonly string[]) => [...briefIds].sort().join(' ');
