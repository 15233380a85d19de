import type { BriefCatalogue } from '@/core/brief/catalogue';
import type { Database } from './db';
import type { FileStore } from './files/store';
import type { ListeningThread, Planner, WorkerPool } from './work/pool';

/** What the services share. */
export interface Context {
  db: Database;
  store: FileStore;
  /** What a project can send its sounds to. */
  briefs: (projectId: number) => BriefCatalogue;
  /** Made when the first job needs it: most commands never start a thread. */
  pool: () => WorkerPool;
  /** Likewise. */
  listener: () => ListeningThread;
  /** Likewise. */
  planner: () => Planner;
  /** Says that something of a project is other than before. */
  changed: (projectId: number) => void;
  /** Ends a job, queued or running. */
  cancel: (jobId: number) => void;
  /** Makes the job queue look for new jobs. */
  pump: () => void;
}
