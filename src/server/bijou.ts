import { EventEmitter } from 'node:events';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { BijouError } from '@/core/errors';
import type { Job, ProjectEvent, ProjectState } from '@/wire';
import type { Context } from './context';
import { openTables } from './db';
import { FileStore } from './files/store';
import { JobRunner } from './jobs/runner';
import { lockFolder } from './lock';
import { listeningService } from './services/listening';
import { buildHandler } from './services/building';
import { packService } from './services/packs';
import { readHandler, soundService } from './services/sounds';
import { threadCount, WorkerPool } from './work/pool';

/** Everything behind the surfaces, over one data folder. */
export async function openBijou(dataDir: string, options: { worker?: string } = {}) {
  mkdirSync(dataDir, { recursive: true });
  const unlock = lockFolder(dataDir);
  const db = openTables(join(dataDir, 'bijou.db'));
  const store = new FileStore(dataDir);
  await store.prepare();
  let pool: WorkerPool | null = null;
  const listeners = new EventEmitter().setMaxListeners(0);
  const tell = (projectId: number, event: ProjectEvent) => listeners.emit(String(projectId), event);
  const context: Context = {
    db,
    store,
    pool: () => (pool ??= new WorkerPool(options.worker)),
    changed: (projectId) => void tell(projectId, { kind: 'changed' }),
    pump: () => runner.pump(),
  };
  const runner = new JobRunner(
    db.jobs,
    { read: readHandler(context), build: buildHandler(context) },
    {
      changed: context.changed,
      progressed: (job: Job) =>
        void tell(job.projectId, { kind: 'progress', jobId: job.id, progress: job.progress }),
    },
    () => store.temporaryPath(),
    threadCount(),
  );
  runner.start();
  const sounds = soundService(context);
  const packs = packService(context);
  return {
    projects: db.projects,
    sounds,
    packs,
    listening: listeningService(context),
    /** Everything that the stations show. @throws not-found */
    projectState(projectId: number): ProjectState {
      const project = db.projects.byId(projectId);
      if (!project) {
        throw new BijouError('not-found', 'There is no such project.', 'Choose one from the list.');
      }
      return {
        project,
        sounds: sounds.ofProject(projectId),
        lines: packs.lines(projectId),
        jobs: db.jobs.open(projectId),
      };
    },
    jobs: {
      open: db.jobs.open,
      cancel: (id: number) => runner.cancel(id),
      idle: () => runner.idle(),
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
      db.close();
      unlock();
    },
  };
}

export type Bijou = Awaited<ReturnType<typeof openBijou>>;
