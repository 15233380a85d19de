import { storedBrief } from '@/core/brief/catalogue';
import { BijouError } from '@/core/errors';
import { writerById } from '@/core/formats/write';
import { pathInPack } from '@/core/pack/layout';
import { safeFileName } from '@/core/pack/names';
import { marksAfter } from '@/core/recipe/recipe';
import { shapeOf } from '@/core/recipe/types';
import type { PackLine } from '@/wire';
import type { Context } from '../context';
import { serveStored, type Asking } from '../files/serving';
import { zipStream } from '../files/zipping';
import { RANK, type Rank } from '../jobs/ranks';
import type { CellService } from './cells';
import type { EncodingService } from './encodings';
import type { SendingService } from './sending';

/** Building what destinations take, and handing it out. */
export function packService(
  { db, store, briefs, changed, pump }: Context,
  cells: CellService,
  encodings: EncodingService,
  sending: SendingService,
) {
  /**
   * Builds every assignment of a project that can be built, or only some; very many a part at a time. Answers the
   * build's id. @throws not-allowed when there is none
   */
  function build(
    projectId: number,
    assignmentIds?: readonly number[],
    rank: Rank = RANK.usual,
  ): number {
    const ids = assignmentIds ?? cells.idsIn(projectId);
    return ids.length > MOST_AT_ONCE ? order(projectId, ids, rank) : begin(projectId, ids, rank);
  }

  /** Begins a build with all of its files. */
  function begin(projectId: number, ids: readonly number[], rank: Rank): number {
    const chosen = [...cells.needs(projectId, ids)];
    const ready = chosen.filter((need) => need.obstacle === null);
    if (ready.length === 0) throw nothingToBuild(chosen[0]?.obstacle?.message);
    const buildId = db.transaction(() => {
      const id = db.packs.addBuild(projectId);
      db.orders.drop(ids);
      place(projectId, id, ready, rank);
      closeBuild();
      changed(projectId);
      return id;
    });
    pump();
    return buildId;
  }

  /** Begins a build whose files are queued a part at a time. */
  function order(projectId: number, ids: readonly number[], rank: Rank): number {
    const ordered = db.cells.unobstructed(ids);
    if (ordered.length === 0) {
      const [first] = cells.needs(projectId, ids.slice(0, 1));
      throw nothingToBuild(first?.obstacle?.message);
    }
    return db.transaction(() => {
      const id = db.packs.addBuild(projectId);
      db.orders.put(id, rank, ordered);
      changed(projectId);
      return id;
    });
  }

  /** Whether any of what is ordered can be queued: a short queue is soon looked through, and soon cancelled. */
  function canPlace(): boolean {
    const [next] = db.orders.first(1);
    return next !== undefined && !db.jobs.isQueueLong(next.rank, MOST_QUEUED);
  }

  /** Queues the next few of what is ordered. Answers whether more of it can be, and whose it was. */
  function placeSlice(): { isMore: boolean; projects: number[] } {
    const next = canPlace() ? db.orders.first(SLICE) : [];
    const [first] = next;
    if (!first) return { isMore: false, projects: [] };
    const { projectId, buildId, rank } = first;
    db.transaction(() => {
      const ids = next.map(({ assignmentId }) => assignmentId);
      db.orders.drop(ids);
      const ready = [...cells.needs(projectId, ids)].filter((need) => need.obstacle === null);
      place(projectId, buildId, ready, rank);
      const isOther = db.orders.first(1)[0]?.buildId !== buildId;
      if (isOther) closeBuild();
    });
    pump();
    return { isMore: canPlace(), projects: [projectId] };
  }

  /** Makes files a part of a build: they are there already, on their way, or queued now. */
  function place(
    projectId: number,
    buildId: number,
    ready: readonly ReadyToBuild[],
    rank: Rank,
  ): void {
    for (const { assignment, files, paths } of ready) {
      for (const { file, plan } of files) {
        db.packs.addOutput({
          path: paths.get(file.id)?.[0] ?? null,
          buildId,
          assignmentId: assignment.id,
          fileId: file.id,
          encodingId: encodings.wanted(projectId, plan, rank),
        });
      }
    }
    const hosted = ready.filter(({ brief }) => brief.host !== undefined);
    for (const briefId of new Set(hosted.map(({ brief }) => brief.id))) {
      db.rehearsals.due(projectId, briefId);
    }
  }

  /** What is ordered and not queued yet is not built. */
  async function forgetOrders(projectId: number): Promise<void> {
    while (db.orders.dropSome(projectId, FORGOTTEN_AT_ONCE)) {
      await new Promise((others) => setImmediate(others));
    }
    db.transaction(() => db.packs.dropEmptyBuilds());
  }

  /** Everything of a build is placed: what it has taken the place of goes. */
  function closeBuild(): void {
    db.packs.dropSuperseded();
    encodings.sweep();
  }

  /** A finished output, with its name in the pack and its type. @throws not-found while it is not finished. */
  function output(id: number) {
    const row = db.packs.output(id);
    const encoding = row && db.encodings.byId(row.encodingId);
    if (!row || !encoding?.sha256 || !encodings.isThere(encoding)) throw notThere();
    const [assignment] = db.packs.assignmentsById([row.assignmentId]);
    const file =
      assignment &&
      storedBrief(briefs(row.projectId), assignment.briefId).files.find(
        (one) => one.id === row.fileId,
      );
    const name = assignment ? cells.placeOf(assignment, row.fileId).name : row.fileId;
    const mimeType = file ? writerById(file.writer).mimeType : 'application/octet-stream';
    return { sha256: encoding.sha256, name, mimeType };
  }

  /** Reads a finished file, or a part of it. @throws as `output` */
  async function file(id: number, asked: Asking) {
    const { sha256, ...known } = output(id);
    return { ...known, ...(await serveStored(store.path(sha256), sha256, asked)) };
  }

  /** What is in the pack: every finished file that is up to date and that its brief takes. */
  function packed(projectId: number, briefId: string | null) {
    const catalogue = briefs(projectId);
    const ids = briefId === null ? undefined : db.cells.ofBrief(projectId, briefId);
    return cells.lines(projectId, ids).flatMap(({ assignment, outputs }: PackLine) => {
      const brief = storedBrief(catalogue, assignment.briefId);
      return outputs.flatMap(({ paths, encodingId, upToDate, sha256, verification, verdict }) => {
        if (!upToDate || !sha256 || !verification || !verdict?.accepted) return [];
        const loop = loopIn(assignment.soundId, encodingId);
        const facts = { ...verification.facts, ...loop };
        // One destination alone needs no folder.
        const placed = (path: string) => (briefId === null ? pathInPack(brief.id, path) : path);
        return paths.map((path) => ({ brief, sha256, facts, path: placed(path) }));
      });
    });
  }

  /** Where a finished file loops, in its own frames, whether its format has a place for that or not. */
  function loopIn(soundId: number, encodingId: number) {
    const source = db.sounds.byId(soundId)?.facts;
    const plan = db.encodings.planOf(encodingId);
    if (!source || !plan || plan.isCopy) return {};
    const { loop, intro, first, tail } = marksAfter(plan.recipe, shapeOf(source), source);
    return loop ? { loop, loopParts: { intro, first, tail } } : {};
  }

  /**
   * Every finished file as a zip: with a folder for each destination where it is not only one, and a manifest.
   * @throws not-found when there is nothing in it.
   */
  function pack(projectId: number, briefId: string | null) {
    const files = packed(projectId, briefId);
    if (files.length === 0) {
      throw new BijouError('not-found', 'There is no finished file to pack.', 'Press Build first.');
    }
    const manifest = files.map(({ brief, path, sha256, facts }) => ({
      path,
      brief: brief.id,
      briefVersion: brief.version,
      sha256,
      ...facts,
    }));
    const project = db.projects.byId(projectId);
    return {
      name: `${safeFileName(project?.name ?? 'pack')}${briefId === null ? '' : ` ${briefId}`}.zip`,
      stream: zipStream(packEntries(files, manifest)),
    };
  }

  /** The zip's files, opened one after the other while it is being written. */
  async function* packEntries(
    files: readonly { path: string; sha256: string }[],
    manifest: unknown,
  ) {
    // A build that ends meanwhile takes the place of files that are still to be read.
    const letGo = store.derived.hold(files.map(({ sha256 }) => sha256));
    try {
      yield { path: 'manifest.json', content: `${JSON.stringify(manifest, null, 2)}\n` };
      for (const { path, sha256 } of files) {
        yield { path, content: { file: store.path(sha256) } };
      }
    } finally {
      letGo();
    }
  }

  return { ...cells, ...sending, build, canPlace, placeSlice, forgetOrders, output, file, pack };
}

/** So many sounds at destinations are begun at once, and so many at a time of more than that. */
const MOST_AT_ONCE = 200;
const SLICE = 30;
/** What is ordered waits while so many jobs do. */
const MOST_QUEUED = 100;
/** Orders that are forgotten in one breath, in some ten milliseconds. */
const FORGOTTEN_AT_ONCE = 2_500;

type ReadyToBuild = ReturnType<CellService['needs']> extends Generator<infer One> ? One : never;

export type PackService = ReturnType<typeof packService>;

function nothingToBuild(reason: string | undefined): BijouError {
  return new BijouError(
    'not-allowed',
    reason === undefined
      ? 'Nothing is assigned to a destination yet.'
      : 'Nothing can be built yet.',
    reason ?? 'Choose a destination for a sound first.',
  );
}

function notThere(): BijouError {
  return new BijouError('not-found', 'That file is not there.', 'Build it, then try again.');
}
