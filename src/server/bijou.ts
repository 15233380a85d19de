import { EventEmitter } from 'node:events';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { builtinBriefs } from '@/core/brief/builtin';
import type { BriefCatalogue } from '@/core/brief/catalogue';
import type { Job, ProjectEvent } from '@/wire';
import type { BodyName, BodyOf } from './bodies';
import type { Context } from './context';
import { openTables } from './db';
import { FileStore } from './files/store';
import type { House, JobHandler } from './jobs/kind';
import { jobKinds } from './jobs/kinds';
import { RANK } from './jobs/ranks';
import { JobRunner } from './jobs/runner';
import { lockFolder } from './lock';
import { listeningService } from './services/listening';
import { buildService } from './services/builds';
import { candidateSetService } from './services/candidateSets';
import { backlogService } from './services/backlog';
import { cellRowService } from './services/cellRows';
import { cellService } from './services/cells';
import { comparisonService } from './services/comparisons';
import { cleanUpService } from './services/cleanUp';
import { deletionService } from './services/deleting';
import { doctorService } from './services/doctor';
import { editService } from './services/edits';
import { encodingService } from './services/encodings';
import { estimateService } from './services/estimates';
import { fittingService } from './services/fitting';
import { intakeService } from './services/intakes';
import { joinService } from './services/joins';
import { projectById } from './services/lookUp';
import { oneOffService } from './services/oneOffs';
import { outcomeService } from './services/outcomes';
import { ownBriefService } from './services/ownBriefs';
import { layoutService } from './services/layouts';
import { outlineService } from './services/outlines';
import { packFileService } from './services/packFiles';
import { lookingService } from './services/looking';
import { needService } from './services/needs';
import { packingService } from './services/packing';
import { packService } from './services/packs';
import { projectStateService, usualParts, type PageParts } from './services/projectStates';
import { projectService } from './services/projects';
import { readingService } from './services/reading';
import { rehearsalService } from './services/rehearsals';
import { reconcile } from './services/reconciling';
import { sendingService } from './services/sending';
import { loopService } from './services/loops';
import { shapingService } from './services/shaping';
import { soundService } from './services/sounds';
import { tryingService } from './services/trying';
import { worryService } from './services/worries';
import { Threads } from './work/threads';

interface Options {
  /** Path of the worker threads' code. */
  worker?: string;
  /** How many jobs run at a time; as many as there are processors unless said. */
  threads?: number;
  /** Threads that stay when it is closed: others work in them as well. */
  shared?: Threads;
  /** How many sounds a page holds when it comes, and how many follow at a time. */
  parts?: PageParts;
  /** Destinations there are; those that come with Bijou unless others are given. */
  briefs?: BriefCatalogue;
}

/** Everything behind the surfaces, over one data folder. */
export async function openBijou(dataDir: string, options: Options = {}) {
  mkdirSync(dataDir, { recursive: true });
  const unlock = lockFolder(dataDir);
  try {
    return await openLocked(dataDir, options, unlock);
  } catch (error) {
    // A start that failed is in nobody's way.
    unlock();
    throw error;
  }
}

async function openLocked(dataDir: string, options: Options, unlock: () => void) {
  const db = openTables(join(dataDir, 'bijou.db'));
  const store = new FileStore(dataDir);
  await store.prepare();
  const threads = options.shared ?? new Threads(options.worker, options.threads);
  const listeners = new EventEmitter().setMaxListeners(0);
  const tell = (projectId: number, event: ProjectEvent) => listeners.emit(String(projectId), event);
  const context: Context = {
    db,
    store,
    briefs: (projectId) => [...(options.briefs ?? builtinBriefs), ...db.ownBriefs.of(projectId)],
    pool: threads.pool,
    listener: threads.listener,
    planner: threads.planner,
    changed(projectId) {
      // Also what was written by itself has its cells worked out.
      db.transaction(() => {
        db.afterCommit(() => {
          follow(projectId);
          tell(projectId, { kind: 'changed' });
        });
      });
    },
    pump: () => runner.pump(),
    cancel: (jobId) => void runner.cancel(jobId),
  };
  const deletions = deletionService(context);
  const edits = editService(context);
  const sounds = soundService(context, edits);
  const intakes = intakeService(context, sounds, edits, deletions);
  const encodings = encodingService(context, deletions);
  const needs = needService(context);
  const rows = cellRowService(context, needs);
  const cells = cellService(context, rows, lookingService(context, needs));
  const sending = sendingService(context, edits, encodings);
  const packs = packService(context, cells, encodings, sending);
  const backlog = backlogService(context, rows, packs);
  db.beforeCommit(() => {
    rows.settleSoon();
    db.afterCommit(backlog.workOff);
  });
  const outlines = outlineService(context, rows);
  const packing = packingService(context, outlines, packs, deletions);
  const rehearsals = rehearsalService(context, outlines);
  const listening = listeningService(context);
  const estimates = estimateService(listening, cells);
  const oneOffs = oneOffService(context, encodings, listening, estimates);
  const ownBriefs = ownBriefService(context, oneOffs);
  const trying = tryingService(context, encodings);
  const projects = projectService(context, deletions, encodings);
  const joins = joinService(context, edits, deletions);
  const outcomes = outcomeService(context);
  const reading = readingService(context);
  const house: House = {
    ...{ context, trying, deletions, intakes, joins, listening, outcomes, packing },
    rehearsals,
  };
  const handlers = new Map<string, JobHandler>(
    jobKinds.map(({ kind, lane, isOvertaken = false, handler }) => [
      kind,
      { lane, isOvertaken, ...handler(house) },
    ]),
  );
  const runner = new JobRunner(
    db,
    handlers,
    {
      changed: context.changed,
      progressed: (job: Job) =>
        void tell(job.projectId, { kind: 'progress', jobId: job.id, progress: job.progress }),
    },
    {
      temporaryPath: () => store.temporaryPath(),
      threads: threads.count,
      quiet: () => threads.quiet(),
    },
  );
  const followed = new Map<number, number>();
  /** Has those go on that wait for what has changed of a project since they were told last. */
  function follow(projectId: number): void {
    const before = followed.get(projectId) ?? -1;
    followed.set(projectId, db.sounds.revision());
    if (db.sounds.areOther(projectId, before)) {
      reading.follow(projectId);
      joins.follow(projectId);
      outcomes.follow(projectId);
    }
    packing.follow(projectId);
    rehearsals.follow(projectId);
  }
  rows.judgedBy(options.briefs ?? builtinBriefs);
  db.transaction(projects.forgetPartial);
  await reconcile(house, encodings);
  packing.letGo();
  runner.start();
  for (const { id } of db.projects.all()) follow(id);
  backlog.start();
  const states = projectStateService(
    context,
    cells,
    edits,
    intakes,
    rehearsals,
    options.parts ?? usualParts,
  );

  return {
    projects: {
      ...projects,
      async letGo(id: number): Promise<void> {
        await runner.cancelAll(
          id,
          jobKinds.map(({ kind }) => kind),
        );
        await projects.letGo(id);
      },
    },
    sounds,
    edits,
    worries: worryService(context, edits),
    intakes,
    cleaning: cleanUpService(context, sounds, deletions, encodings),
    packs,
    packing: { ...outlines, ...packing, ...packFileService(context, packing) },
    layouts: layoutService(context, edits, outlines),
    oneOffs,
    comparisons: comparisonService(context, encodings, cells, listening),
    trying,
    candidateSets: candidateSetService(context),
    ownBriefs,
    builds: buildService(context),
    fitting: fittingService(context, cells, estimates, encodings),
    doctor: doctorService(context, sounds, edits, sending, ownBriefs),
    estimates,
    loops: loopService(context, edits),
    shaping: shapingService(context, edits, listening),
    joins,
    listening,
    reading: {
      /** Reads a long body of a request, in a thread. @throws bad-setting that names the field */
      body: <Name extends BodyName>(name: Name, bytes: Uint8Array) =>
        context.planner().ask({ kind: 'body', name, bytes }) as Promise<BodyOf<Name>>,
    },
    projectById: (id: number) => projectById(db, id),
    /** Every brief that a project can send to. @throws not-found */
    briefsOf(projectId: number): BriefCatalogue {
      projectById(db, projectId);
      return context.briefs(projectId);
    },
    projectState: states.state,
    firstPart: states.firstPart,
    projectNews: states.news,
    jobs: {
      open: db.jobs.open,
      /** Cancels what is queued or running of a project, of all kinds or only of some. */
      async cancelAll(projectId: number, kinds: readonly string[] = shownKinds): Promise<void> {
        if (kinds.includes('encode')) await packs.forgetOrders(projectId);
        await runner.cancelAll(projectId, kinds);
      },
      /** Cancels what is done about one thing of a project. Answers whether there was anything to cancel. */
      cancelOf(projectId: number, kind: string, subjectId: number): boolean {
        const id = db.jobs.of(kind, subjectId);
        return id !== undefined && db.jobs.byId(id)?.projectId === projectId && runner.cancel(id);
      },
      cancel: (id: number) => runner.cancel(id),
      /** Resolves when nothing is left to be done or deleted. */
      async idle() {
        do {
          await backlog.done();
          await runner.idle();
        } while (backlog.isOpen());
        await deletions.carryOut();
      },
    },
    store,
    /** Calls `hear` at every event of a project until the answer is called. */
    listen(projectId: number, hear: (event: ProjectEvent) => void): () => void {
      listeners.on(String(projectId), hear);
      return () => listeners.off(String(projectId), hear);
    },
    async close(): Promise<void> {
      await backlog.stop();
      await runner.stop();
      if (threads !== options.shared) await threads.close();
      await deletions.carryOut();
      db.close();
      unlock();
    },
  };
}

const shownKinds = jobKinds.filter(({ rank }) => rank !== RANK.quiet).map(({ kind }) => kind);

export type Bijou = Awaited<ReturnType<typeof openBijou>>;
