import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { storedBrief } from '@/core/brief/catalogue';
import { groupBy } from '@/core/group';
import { listText, type KeptFile } from '@/core/pack/changes';
import { slottedSounds, type PartInput } from '@/core/pack/input';
import { needsBytes } from '@/core/pack/part';
import { usesCalls } from '@/core/pack/partCalls';
import { fieldValues, titleOf } from '@/core/pack/partFields';
import { isRight, packPlan, type PackPlan } from '@/core/pack/plan';
import type { OutlinedFile, PackOutline, PackPart } from '@/wire';
import type { Context } from '../context';
import type { CellService } from './cells';
import { projectById } from './lookUp';
import { partFiles } from './packedSounds';

/** Looking at packs as they would be made now. */
export function outlineService({ db, store, briefs }: Context, cells: CellService) {
  /** What some destinations of a project get. @throws not-found */
  function inputs(projectId: number, briefIds: readonly string[]): PartInput[] {
    const { name: project } = projectById(db, projectId);
    const catalogue = briefs(projectId);
    const wanted = new Set(briefIds);
    const made = groupBy(cells.made(projectId, wanted), ({ assignment }) => assignment.briefId);
    return [...wanted].map((id) => {
      const brief = storedBrief(catalogue, id);
      const settings = db.packSettings.of(projectId, id);
      return {
        brief,
        project,
        settings,
        files: (made.get(id) ?? []).flatMap((one) => partFiles(db, one)),
        icon: settings.icon ? bytesOf(settings.icon.sha256) : null,
        bytesOf: (sha256) => (needsBytes(brief) ? (bytesOf(sha256) ?? none) : none),
      };
    });
  }

  function bytesOf(sha256: string): Uint8Array | null {
    try {
      return readFileSync(store.path(sha256));
    } catch {
      return null;
    }
  }

  /** A pack as it would be made now, with everything that is wrong with it. */
  function outline(projectId: number, briefIds: readonly string[]): PackOutline {
    const { all, plan, toBuild, newest } = look(projectId, briefIds);
    return {
      files: outlinedFiles(all, plan),
      parts: all.map((input, i) => outlinedPart(input, plan.parts[i]!)),
      troubles: plan.troubles,
      toBuild,
      newest,
    };
  }

  /** The same before it is put into words. */
  function look(projectId: number, briefIds: readonly string[]) {
    const all = inputs(projectId, briefIds);
    const plan = packPlan(all);
    const open = all.flatMap(({ files }) => files.map(({ made }) => made));
    return {
      all,
      plan,
      /** Files that have to be built first. */
      toBuild: open.filter((made) => 'reason' in made && made.isBuildable).length,
      newest: newestOf(projectId, briefIds, plan),
    };
  }

  /** What is there, and what has to be built first, in the order of their paths. */
  function outlinedFiles(all: readonly PartInput[], { entries, parts }: PackPlan): OutlinedFile[] {
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
    const there = entries.map(({ content, ...entry }) => ({
      ...entry,
      sha256: content ? sha256Of(content) : entry.sha256,
    }));
    return [...there, ...missing].sort((a, b) => (a.path < b.path ? -1 : 1));
  }

  function outlinedPart(input: PartInput, part: PackPlan['parts'][number]): PackPart {
    const { brief, settings, files } = input;
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
        isReady: files.every((file) => file.soundId !== soundId || !('reason' in file.made)),
      })),
      soundBytes: part.entries
        .filter(({ kind }) => kind === 'sound')
        .reduce((sum, { bytes }) => sum + bytes, 0),
      mostTotalBytes: brief.mostTotalBytes ?? null,
    };
  }

  function newestOf(
    projectId: number,
    briefIds: readonly string[],
    plan: PackPlan,
  ): PackOutline['newest'] {
    const key = [...briefIds].sort().join(' ');
    const newest = db.madePacks
      .of(projectId)
      .find((pack) => pack.state === 'done' && [...pack.briefs].sort().join(' ') === key);
    if (!newest) return null;
    return {
      id: newest.id,
      isCurrent: isRight(plan) && digestOf(keptFiles(plan)) === newest.digest,
    };
  }

  return { inputs, look, outline };
}

export type OutlineService = ReturnType<typeof outlineService>;

const none = new Uint8Array();

function sha256Of(bytes: Uint8Array): string {
  return createHash('sha256').update(bytes).digest('hex');
}

/** The files of a plan under their addresses. */
export function keptFiles({ entries }: Pick<PackPlan, 'entries'>): KeptFile[] {
  return entries.map(({ path, sha256, bytes, content }) => ({
    path,
    bytes,
    sha256: content ? sha256Of(content) : sha256!,
  }));
}

/** Tells packs apart: of two with the same one every file is the same, under the same path. */
export function digestOf(files: readonly KeptFile[]): string {
  return sha256Of(new TextEncoder().encode(listText(files)));
}
