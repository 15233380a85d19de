import { EventEmitter } from 'node:events';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { builtinBriefs } from '@/core/brief/builtin';
import type { BriefCatalogue } from '@/core/brief/catalogue';
import type { Job, ListedJob, ProjectEvent, ProjectNews, ProjectState } from '@/wire';
import type { BodyName, BodyOf } from './bodies';
import type { Context } from './context';
import { openTables } from './db';
import { FileStore } from './files/store';
import type { House, JobHandler } from './jobs/kind';
import { jobKinds } from './jobs/kinds';
import { JobRunner } from './jobs/runner';
import { lockFolder } from './lock';
import { listeningService } from './services/listening';
import { buildService } from './services/builds';
import { candidateSetService } from './services/candidateSets';
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
import { packingService } from './services/packing';
import { packService } from './services/packs';
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
import { ListeningThread, Planner, threadCount, WorkerPool } from './work/pool';

interface Options {
  /** Path of the worker threads' code. */
  worker?: string;
  /** How many jobs run at a time; as many as there are processors unless said. */
  threads?: number;
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
  const threads = options.threads ?? threadCount();
  let pool: WorkerPool | null = null;
  let listener: ListeningThread | null = null;
  let planner: Planner | null = null;
  const listeners = new EventEmitter().setMaxListeners(0);
  const tell = (projectId: number, event: ProjectEvent) => listeners.emit(String(projectId), event);
  const context: Context = {
    db,
    store,
    briefs: (projectId) => [...(options.briefs ?? builtinBriefs), ...db.ownBriefs.of(projectId)],
    pool: () => (pool ??= new WorkerPool(options.worker, threads)),
    listener: () => (listener ??= new ListeningThread(options.worker)),
    planner: () => (planner ??= new Planner(options.worker)),
    changed(projectId) {
      db.afterCommit(() => {
        reading.follow(projectId);
        joins.follow(projectId);
        outcomes.follow(projectId);
        packing.follow(projectId);
        rehearsals.follow(projectId);
        tell(projectId, { kind: 'changed' });
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
  const cells = cellService(context);
  const sending = sendingService(context, edits, encodings);
  const packs = packService(context, cells, encodings, sending);
  const outlines = outlineService(context, cells);
  const packing = packingService(context, cells, outlines, packs, deletions);
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
    jobKinds.map(
      ({ kind, lane, isQuiet = false, isOvertaken = false, isNext = false, handler }) => [
        kind,
        { lane, isQuiet, isOvertaken, isNext, ...handler(house) },
      ],
    ),
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
      threads,
      quiet: async () => listener?.quiet(),
    },
  );
  await reconcile(house, encodings);
  packing.letGo();
  runner.start();
  for (const { id } of db.projects.all()) {
    joins.follow(id);
    outcomes.follow(id);
    packing.follow(id);
    rehearsals.follow(id);
  }

  let isClosed = false;
  /** Behind everything that somebody waits for. */
  const atRest = async () => {
    await new Promise((rested) => setTimeout(rested, 5).unref());
    return !isClosed;
  };
  const warmUp = async () => {
    for (const { id } of db.projects.all()) {
      if (await atRest()) await cells.warmUp(id, atRest);
    }
  };
  // It only saves time: whoever asks works out what is missing.
  void warmUp().catch(() => undefined);

  /** What people wait for. */
  const openJobs = (projectId: number) =>
    db.jobs.open(projectId).flatMap((job): ListedJob[] => {
      const { verb, noun, isQuiet } = jobKinds.find(({ kind }) => kind === job.kind) ?? unknownKind;
      return isQuiet ? [] : [{ ...job, verb, noun }];
    });

  /** What is small enough to be told with every change. */
  function around(projectId: number) {
    return {
      project: projectById(db, projectId),
      jobs: openJobs(projectId),
      intake: intakes.summary(projectId),
      history: edits.history(projectId),
      trials: db.trials.news(projectId),
      packs: db.madePacks.news(projectId),
      rehearsals: rehearsals.of(projectId),
      briefsVersion: db.ownBriefs.version(projectId),
      revision: db.sounds.revision(),
    };
  }

  let latest: { projectId: number; written: number; lines: Lines } | null = null;
  /** What there are thousands of. Until something is written, who asks again gets the same objects. */
  function lines(projectId: number): Lines {
    const written = db.written();
    if (latest?.projectId !== projectId || latest.written !== written) {
      const lines = { sounds: sounds.ofProject(projectId), cells: cells.cells(projectId) };
      latest = { projectId, written, lines };
    }
    return latest.lines;
  }

  return {
    projects: {
      ...projects,
      async letGo(id: number): Promise<void> {
        for (const job of db.jobs.open(id)) runner.cancel(job.id);
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
    /** Everything that the stations show. @throws not-found */
    projectState: (projectId: number): ProjectState => ({
      ...around(projectId),
      ...lines(projectId),
      briefs: [...context.briefs(projectId)],
      layout: db.projects.layout(projectId),
    }),
    /** What is other than at `revision`. @throws not-found */
    projectNews(projectId: number, revision: number): ProjectNews {
      const { changed, gone } = db.sounds.since(projectId, revision);
      const ids = changed.map(({ id }) => id);
      return { ...around(projectId), changed, gone, cells: cells.cells(projectId, ids) };
    },
    jobs: {
      open: db.jobs.open,
      /** Cancels what is queued or running of a project, of all kinds or only of some. */
      cancelAll: (projectId: number, kinds?: readonly string[]) => {
        // Backwards, so that what ends does not make room for what is about to be cancelled.
        for (const { id, kind } of openJobs(projectId).reverse()) {
          if (!kinds || kinds.includes(kind)) runner.cancel(id);
        }
      },
      cancel: (id: number) => runner.cancel(id),
      /** Resolves when nothing is left to be done or deleted. */
      async idle() {
        await runner.idle();
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
      isClosed = true;
      await runner.stop();
      await pool?.close();
      await listener?.close();
      await planner?.close();
      await deletions.carryOut();
      db.close();
      unlock();
    },
  };
}

type Lines = Pick<ProjectState, 'sounds' | 'cells'>;

/** A job of a newer Bijou. */
const unknownKind = { verb: 'working on', noun: 'thing', isQuiet: false } as const;

export type Bijou = Awaited<ReturnType<typeof openBijou>>;
