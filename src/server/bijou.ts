import { EventEmitter } from 'node:events';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { BijouError } from '@/core/errors';
import type { Job, JobKind, ProjectEvent, ProjectNews, ProjectState } from '@/wire';
import type { Context } from './context';
import { openTables } from './db';
import { FileStore } from './files/store';
import { JobRunner } from './jobs/runner';
import { lockFolder } from './lock';
import { listeningService } from './services/listening';
import { buildHandler } from './services/building';
import { cleanUpService } from './services/cleanUp';
import { deletionService } from './services/deleting';
import { editService } from './services/edits';
import { intakeService } from './services/intakes';
import { joinService } from './services/joins';
import { packService } from './services/packs';
import { reconcile } from './services/reconciling';
import { shapingService } from './services/shaping';
import { readHandler, soundService } from './services/sounds';
import { unpackHandler } from './services/unpacking';
import { worryService } from './services/worries';
import { ListeningThread, threadCount, WorkerPool } from './work/pool';

/** Everything behind the surfaces, over one data folder. */
export async function openBijou(dataDir: string, options: { worker?: string } = {}) {
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

async function openLocked(dataDir: string, options: { worker?: string }, unlock: () => void) {
  const db = openTables(join(dataDir, 'bijou.db'));
  const store = new FileStore(dataDir);
  await store.prepare();
  let pool: WorkerPool | null = null;
  let listener: ListeningThread | null = null;
  const listeners = new EventEmitter().setMaxListeners(0);
  const tell = (projectId: number, event: ProjectEvent) => listeners.emit(String(projectId), event);
  const context: Context = {
    db,
    store,
    pool: () => (pool ??= new WorkerPool(options.worker)),
    listener: () => (listener ??= new ListeningThread(options.worker)),
    changed(projectId) {
      db.afterCommit(() => {
        joins.follow(projectId);
        tell(projectId, { kind: 'changed' });
      });
    },
    pump: () => runner.pump(),
  };
  const deletions = deletionService(context);
  const edits = editService(context);
  const sounds = soundService(context, edits);
  const intakes = intakeService(context, sounds, edits, deletions);
  const packs = packService(context, deletions);
  const listening = listeningService(context);
  const joins = joinService(context, edits, deletions);
  const runner = new JobRunner(
    db,
    {
      read: readHandler(context, deletions),
      build: buildHandler(context, deletions),
      unpack: unpackHandler(context, intakes.settle, deletions),
      join: joins.handler(listening),
    },
    {
      changed: context.changed,
      progressed: (job: Job) =>
        void tell(job.projectId, { kind: 'progress', jobId: job.id, progress: job.progress }),
    },
    () => store.temporaryPath(),
    threadCount(),
  );
  await reconcile(context, deletions);
  runner.start();
  for (const { id } of db.projects.all()) joins.follow(id);

  /** @throws not-found */
  function projectById(id: number) {
    const project = db.projects.byId(id);
    if (project) return project;
    throw new BijouError('not-found', 'There is no such project.', 'Choose one from the list.');
  }

  /** What is small enough to be told with every change. */
  function around(projectId: number) {
    return {
      project: projectById(projectId),
      jobs: db.jobs.open(projectId),
      intake: intakes.summary(projectId),
      history: edits.history(projectId),
      revision: db.sounds.revision(),
    };
  }

  return {
    projects: db.projects,
    sounds,
    edits,
    worries: worryService(context, edits),
    intakes,
    cleaning: cleanUpService(context, sounds, deletions),
    packs,
    shaping: shapingService(context, edits),
    joins,
    listening,
    projectById,
    /** Everything that the stations show. @throws not-found */
    projectState: (projectId: number): ProjectState => ({
      ...around(projectId),
      sounds: sounds.ofProject(projectId),
      lines: packs.lines(projectId),
      layout: db.projects.layout(projectId),
    }),
    /** What is other than at `revision`. @throws not-found */
    projectNews(projectId: number, revision: number): ProjectNews {
      const { changed, gone } = db.sounds.since(projectId, revision);
      const lines = packs.lines(projectId, new Set(changed.map(({ id }) => id)));
      return { ...around(projectId), changed, gone, lines };
    },
    jobs: {
      open: db.jobs.open,
      /** Cancels what is queued or running of a project, of all kinds or only of some. */
      cancelAll: (projectId: number, kinds?: readonly JobKind[]) => {
        // Backwards, so that what ends does not make room for what is about to be cancelled.
        for (const { id, kind } of db.jobs.open(projectId).reverse()) {
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
    output: packs.output,
    store,
    /** Calls `hear` at every event of a project until the answer is called. */
    listen(projectId: number, hear: (event: ProjectEvent) => void): () => void {
      listeners.on(String(projectId), hear);
      return () => listeners.off(String(projectId), hear);
    },
    async close(): Promise<void> {
      await runner.stop();
      await pool?.close();
      await listener?.close();
      await deletions.carryOut();
      db.close();
      unlock();
    },
  };
}

export type Bijou = Awaited<ReturnType<typeof openBijou>>;
