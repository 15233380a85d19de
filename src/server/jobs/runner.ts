import { rm } from 'node:fs/promises';
import { BijouError, errorFacts, type ErrorFacts } from '@/core/errors';
import type { Job, JobKind } from '@/wire';
import type { jobStatements } from '../db/jobs';
import type { RunOptions } from '../work/pool';

/** How one kind of job is done and what is written down when it ends. */
export interface JobHandler {
  /** Whether it works in a thread, of which there are only so many; the others run beside. */
  usesThread: boolean;
  /** Marks the subject as being worked on. */
  start(job: Job): void;
  /** `temporary` gives paths that are removed when the job ends, however it ends. */
  run(job: Job, options: RunOptions, temporary: () => string): Promise<void>;
  fail(job: Job, error: ErrorFacts): void | Promise<void>;
  cancel(job: Job): void | Promise<void>;
}

/** A job that brings its thread or the server down this often is given up. */
const MOST_ATTEMPTS = 3;

export interface JobEvents {
  /** Something of the project is other than before. */
  changed(projectId: number): void;
  progressed(job: Job): void;
}

/** Takes queued jobs in order, as many at a time as there are threads, and one beside them. The queue itself is in SQLite. */
export class JobRunner {
  private readonly running = new Map<number, AbortController>();
  private readonly settled = new Set<Promise<void>>();
  private stopped = false;
  private inThreads = 0;

  constructor(
    private readonly jobs: ReturnType<typeof jobStatements>,
    private readonly handlers: Record<JobKind, JobHandler>,
    private readonly events: JobEvents,
    private readonly temporaryPath: () => string,
    private readonly most: number,
  ) {}

  /** Picks up what a crash left and begins. */
  start(): void {
    this.jobs.requeueRunning();
    this.pump();
  }

  /** Starts as many queued jobs as there is room for. Call after adding some. */
  pump(): void {
    while (!this.stopped) {
      const job = this.jobs.claim(this.kindsToStart());
      if (!job) return;
      const abort = new AbortController();
      this.running.set(job.id, abort);
      const threads = this.handlers[job.kind].usesThread ? 1 : 0;
      this.inThreads += threads;
      const done = this.work(job, abort).finally(() => {
        this.running.delete(job.id);
        this.inThreads -= threads;
        this.settled.delete(done);
        this.pump();
      });
      this.settled.add(done);
    }
  }

  /** What there is room for: one job beside the threads, and one in each. */
  private kindsToStart(): JobKind[] {
    const kinds = Object.keys(this.handlers) as JobKind[];
    const hasThread = this.inThreads < this.most;
    const hasRoomBeside = this.running.size === this.inThreads;
    return kinds.filter((kind) => (this.handlers[kind].usesThread ? hasThread : hasRoomBeside));
  }

  /** Cancels a queued or running job. Answers whether there was anything to cancel. */
  async cancel(jobId: number): Promise<boolean> {
    const abort = this.running.get(jobId);
    if (abort) {
      abort.abort();
      return true;
    }
    const job = this.jobs.byId(jobId);
    if (job?.state !== 'queued') return false;
    this.jobs.settle(jobId, 'cancelled');
    await this.handlers[job.kind].cancel(job);
    this.events.changed(job.projectId);
    return true;
  }

  /** Stops taking jobs and ends the running ones; they are queued again at the next start. */
  async stop(): Promise<void> {
    this.stopped = true;
    for (const abort of this.running.values()) abort.abort();
    await Promise.all(this.settled);
  }

  /** Resolves when nothing is queued or running any more. For the demo, scripts and tests. */
  async idle(): Promise<void> {
    while (this.settled.size > 0) await Promise.all(this.settled);
  }

  private async work(job: Job, abort: AbortController): Promise<void> {
    const handler = this.handlers[job.kind];
    const temporaries: string[] = [];
    const temporary = () => {
      const path = this.temporaryPath();
      temporaries.push(path);
      return path;
    };
    const progress = (share: number) => {
      this.jobs.setProgress(job.id, share);
      this.events.progressed({ ...job, progress: share });
    };
    try {
      if (job.attempts > MOST_ATTEMPTS) throw gaveUp();
      handler.start(job);
      this.events.changed(job.projectId);
      await handler.run(job, { signal: abort.signal, progress }, temporary);
      this.jobs.settle(job.id, 'done');
    } catch (error) {
      await this.settleFailure(job, error, abort.signal.aborted);
    } finally {
      await Promise.all(temporaries.map((path) => rm(path, { force: true })));
      this.events.changed(job.projectId);
    }
  }

  private async settleFailure(job: Job, error: unknown, aborted: boolean): Promise<void> {
    const handler = this.handlers[job.kind];
    if (this.stopped) {
      this.jobs.settle(job.id, 'queued');
    } else if (aborted) {
      this.jobs.settle(job.id, 'cancelled');
      await handler.cancel(job);
    } else if (error instanceof BijouError) {
      this.jobs.settle(job.id, 'failed');
      await handler.fail(job, errorFacts(error));
    } else if (job.attempts < MOST_ATTEMPTS) {
      // The thread fell over, which need not be this job's fault.
      console.error(`Job ${job.id} (${job.kind}) fell over and is tried again:`, error);
      this.jobs.settle(job.id, 'queued');
    } else {
      this.jobs.settle(job.id, 'failed');
      await handler.fail(job, errorFacts(gaveUp()));
    }
  }
}

function gaveUp(): BijouError {
  return new BijouError(
    'internal',
    `Working on it failed ${MOST_ATTEMPTS} times without a reason being given.`,
    'The file may be damaged in an unusual way; export it anew, and report this with the file.',
  );
}
