import { createHash } from 'node:crypto';
import { briefById, storedBrief } from '@/core/brief/catalogue';
import { listText, type KeptFile } from '@/core/pack/changes';
import { slottedSounds } from '@/core/pack/input';
import { usesCalls } from '@/core/pack/partCalls';
import { fieldValues, titleOf } from '@/core/pack/partFields';
import { isRight } from '@/core/pack/plan';
import type { OutlinedFile, PackOutline, PackPart } from '@/wire';
import type { Context } from '../context';
import type { OutlineInput } from '../work/partFiles';
import type { PlannedPack } from '../work/planPack';
import type { RunOptions } from '../work/pool';
import type { CellRowService } from './cellRows';
import { projectById } from './lookUp';
import { storedPartFiles } from './packedSounds';

/** Looking at packs as they would be made now. */
export function outlineService(
  { db, store, briefs, planner }: Context,
  rows: Pick<CellRowService, 'settleBrief'>,
) {
  /** What some destinations of a project get. @throws not-found */
  function inputs(projectId: number, briefIds: readonly string[]): OutlineInput[] {
    const { name: project } = projectById(db, projectId);
    const catalogue = briefs(projectId);
    const wanted = new Set(briefIds);
    return [...wanted].map((id) => {
      const brief = storedBrief(catalogue, id);
      rows.settleBrief(projectId, id);
      return {
        ...{ brief, project, settings: db.packSettings.of(projectId, id) },
        files: storedPartFiles(db, projectId, brief),
      };
    });
  }

  /** Lays a pack out, in a thread of its own. @throws too-slow, memory */
  function plan(
    all: readonly OutlineInput[],
    { withContent = false, ...options }: Planning = {},
  ): Promise<PlannedPack> {
    const { dataDir } = store;
    return planner().ask({ kind: 'plan', inputs: [...all], dataDir, withContent }, options);
  }

  /** A pack as it would be made now, with everything that is wrong with it. @throws not-found */
  async function outline(projectId: number, briefIds: readonly string[]): Promise<PackOutline> {
    for (const id of briefIds) briefById(briefs(projectId), id);
    const { all, plan: planned, toBuild, newest } = await look(projectId, briefIds);
    return {
      files: outlinedFiles(all, planned),
      parts: all.map((input, i) => outlinedPart(input, planned, i)),
      troubles: planned.troubles,
      toBuild,
      newest,
    };
  }

  /** Everything that decides what a pack holds, in short. */
  function stampOf(projectId: number, briefIds: readonly string[]): string {
    const catalogue = briefs(projectId);
    const { name } = projectById(db, projectId);
    const decided = briefIds.map((id) => {
      rows.settleBrief(projectId, id);
      const settings = db.packSettings.of(projectId, id);
      return [storedBrief(catalogue, id), settings, db.cells.stampOf(projectId, id)];
    });
    return sha256Of(
      new TextEncoder().encode(
        JSON.stringify([projectId, name, db.sounds.latestOf(projectId), decided]),
      ),
    );
  }

  // A screen asks again with every piece of news, and few of them are of its pack.
  let latest: { stamp: string; all: OutlineInput[]; planned: PlannedPack } | null = null;

  /** What some destinations get, laid out; until something of it is other, the same objects. */
  async function laidOut(projectId: number, briefIds: readonly string[]) {
    const stamp = stampOf(projectId, briefIds);
    if (latest?.stamp === stamp) return latest;
    const all = inputs(projectId, briefIds);
    const laid = { stamp, all, planned: await plan(all) };
    latest = laid;
    return laid;
  }

  /** The same before it is put into words. */
  async function look(projectId: number, briefIds: readonly string[]) {
    const { all, planned } = await laidOut(projectId, briefIds);
    const open = all.flatMap(({ files }) => files.map(({ made }) => made));
    return {
      all,
      plan: planned,
      /** Files that have to be built first. */
      toBuild: open.filter((made) => 'reason' in made && made.isBuildable).length,
      newest: newestOf(projectId, briefIds, planned),
    };
  }

  /** What is there, and what has to be built first, in the order of their paths. */
  function outlinedFiles(
    all: readonly OutlineInput[],
    { entries, parts }: PlannedPack,
  ): OutlinedFile[] {
    const missing = all.flatMap(({ brief, files }, i) => {
      const { folder } = parts[i]!;
      return files.flatMap(({ made, paths, soundId }) => {
        if (!('reason' in made)) return [];
        return paths.map((path) => ({
          path: folder === '' ? path : `${folder}/${path}`,
          kind: 'sound' as const,
          briefId: brief.id,
          bytes: 0,
          soundId,
          sha256: null,
        }));
      });
    });
    const there = entries.map(({ path, kind, briefId, bytes, soundId, sha256 }) => ({
      ...{ path, kind, briefId, bytes, soundId, sha256 },
    }));
    return [...there, ...missing].sort((a, b) => (a.path < b.path ? -1 : 1));
  }

  function outlinedPart(input: OutlineInput, planned: PlannedPack, i: number): PackPart {
    const { brief, settings, files } = input;
    const part = planned.parts[i]!;
    const waiting = new Set(
      files.flatMap(({ soundId, made }) => ('reason' in made ? [soundId] : [])),
    );
    return {
      briefId: brief.id,
      folder: part.folder,
      layout: brief.layout ?? null,
      settings,
      title: titleOf(input),
      fields: fieldValues(brief, settings),
      slots: part.slots,
      calls: part.calls,
      usesCalls: usesCalls(brief),
      sounds: slottedSounds(files).map(({ soundId, paths, slots }) => ({
        soundId,
        paths: [...paths],
        slots: [...slots],
        isReady: !waiting.has(soundId),
      })),
      soundBytes: planned.entries
        .filter(({ kind, briefId }) => kind === 'sound' && briefId === brief.id)
        .reduce((sum, { bytes }) => sum + bytes, 0),
      mostTotalBytes: brief.mostTotalBytes ?? null,
    };
  }

  function newestOf(
    projectId: number,
    briefIds: readonly string[],
    planned: PlannedPack,
  ): PackOutline['newest'] {
    const key = [...briefIds].sort().join(' ');
    const newest = db.madePacks
      .of(projectId)
      .find((pack) => pack.state === 'done' && [...pack.briefs].sort().join(' ') === key);
    if (!newest) return null;
    return {
      id: newest.id,
      isCurrent: isRight(planned) && digestOf(keptFiles(planned)) === newest.digest,
    };
  }

  return { inputs, plan, look, outline };
}

export type OutlineService = ReturnType<typeof outlineService>;

/** How a pack is laid out. */
interface Planning extends Partial<RunOptions> {
  withContent?: boolean;
}

function sha256Of(bytes: Uint8Array): string {
  return createHash('sha256').update(bytes).digest('hex');
}

/** The files of a plan under their addresses. */
export function keptFiles({ entries }: Pick<PlannedPack, 'entries'>): KeptFile[] {
  return entries.map(({ path, sha256, bytes }) => ({ path, bytes, sha256 }));
}

/** Tells packs apart: of two with the same one every file is the same, under the same path. */
export function digestOf(files: readonly KeptFile[]): string {
  return sha256Of(new TextEncoder().encode(listText(files)));
}
