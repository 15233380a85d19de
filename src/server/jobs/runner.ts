import { rm } from 'node:fs/promises';
import { BijouError, errorFacts } from '@/core/errors';
import { groupBy } from '@/core/group';
import type { Job } from '@/wire';
import type { Database } from '../db';
import type { RunOptions } from '../work/pool';
import type { JobHandler } from './kind';
import { Lanes, type Running } from './lanes';

/** A job that brings down what it runs in this often is given up. */
const MOST_ATTEMPTS = 3;
/** What cannot be written down, for want of room on the disk, is tried again so often. */
const WRITE_AGAIN_MS = 2_000;

/** After so long others overtake a job that may be overtaken. */
const SLOW_MS = 2_000;

/** So many queued jobs are cancelled in one breath. */
const CANCELLED_AT_ONCE = 100;

export interface JobEvents {
  /** Something of the project is other than before. */
  changed(projectId: number): void;
  progressed(job: Job): void;
}

/** What a runner needs besides the queue and its handlers. */
interface Surroundings {
  temporaryPath(): string;
  /** How many worker threads there are. */
  threads: number;
  /** Resolves when nobody is being answered, so that what is measured is measured undisturbed. */
  quiet(): Promise<void>;
}

/**
 * Takes queued jobs in order, each lane by its own rule. The queue itself is in SQLite. What was at work when
 * something fell over is suspected, and runs in a process of its own.
 */
export class JobRunner {
  private readonly running = new Map<number, Running>();
  private readonly settled = new Set<Promise<void>>();
  private readonly stopping = new AbortController();
  private readonly lanes: Lanes;

  constructor(
    private readonly db: Pick<Database, 'jobs' | 'transaction'>,
    private readonly handlers: ReadonlyMap<string, JobHandler>,
    private readonly events: JobEvents,
    private readonly around: Surroundings,
  ) {
    this.lanes = new Lanes(db.jobs, handlers, around.threads);
  }

  /** Picks up what a crash left and begins. */
  start(): void {
    this.db.jobs.requeueRunning();
    for (const job of this.db.jobs.triedOften(MOST_ATTEMPTS)) this.giveUp(job);
    this.pump();
  }

  /** What was at work each time when everything ended is not begun once more: it would end everything again. */
  private giveUp(job: Job): void {
    const handler = this.handlers.get(job.kind);
    if (!handler) return;
    console.error(`Job ${job.id} (${job.kind} ${job.subjectId}) is given up: Bijou ended over it.`);
    this.db.transaction(() => this.conclude(job, () => handler.fail(job, errorFacts(endedOver()))));
    this.events.changed(job.projectId);
  }

  /**
   * Writes down what came of a job, in one breath with its end. What it was begun for may be otherwise by now: then
   * that is dropped, success or failure, and what is wanted now is done instead. Answers whether it counted.
   */
  private conclude(job: Job, write: () => void): boolean {
    const now = this.basisOf(job);
    const began = this.db.jobs.basisOf(job.id);
    const counts = began === null || now === began;
    if (counts) write();
    if (counts || now === null) this.db.jobs.end(job.id);
    else this.db.jobs.renew(job.id);
    return counts;
  }

  /** What a job is done for; null where that is not wanted any more. */
  private basisOf(job: Job): string | null {
    return this.handlers.get(job.kind)?.basis(job) ?? null;
  }

  /** Starts as many queued jobs as there is room for. Call after adding some. */
  pump(): void {
    while (!this.stopping.signal.aborted) {
      const job = this.lanes.next([...this.running.values()]);
      if (!job) return;
      const { lane, isOvertaken } = this.handlerOf(job);
      const { kind, projectId, rank } = job;
      const abort = new AbortController();
      const pause = new Int32Array(new SharedArrayBuffer(4));
      const running: Running = { abort, kind, projectId, lane, rank, isSlow: false, pause };
      this.running.set(job.id, running);
      const slow = isOvertaken && setTimeout(() => this.overtake(running), SLOW_MS);
      const done = this.work(job, running).finally(() => {
        if (slow) clearTimeout(slow);
        this.running.delete(job.id);
        this.settled.delete(done);
        this.pump();
      });
      this.settled.add(done);
    }
  }

  /** Makes room for others beside one that takes long. */
  private overtake(running: Running): void {
    running.isSlow = true;
    this.pump();
  }

  /** Only jobs of known kinds are ever claimed; one of a newer Bijou stays in the queue. */
  private handlerOf({ kind }: Job): JobHandler {
    const handler = this.handlers.get(kind);
    if (handler) return handler;
    throw new BijouError('not-found', `There is no work of the kind "${kind}".`, 'Update Bijou.');
  }

  /** Cancels a queued or running job. Answers whether there was anything to cancel. */
  cancel(jobId: number): boolean {
    const running = this.running.get(jobId);
    if (running) {
      running.abort.abort();
      return true;
    }
    const job = this.db.jobs.byId(jobId);
    if (!job) return false;
    this.db.transaction(() => {
      this.db.jobs.end(jobId);
      this.handlers.get(job.kind)?.cancel(job);
    });
    this.events.changed(job.projectId);
    return true;
  }

  /** Cancels what is queued or running of a project, of some kinds; what is queued a part at a time. */
  async cancelAll(projectId: number, kinds: readonly string[]): Promise<void> {
    // What is queued first, the last in front: what ends would make room for what is about to be cancelled.
    while (this.cancelQueued(projectId, kinds)) {
      this.events.changed(projectId);
      await new Promise((others) => setImmediate(others));
    }
    for (const job of this.running.values()) {
      if (job.projectId === projectId && kinds.includes(job.kind)) job.abort.abort();
    }
    this.events.changed(projectId);
  }

  /** Answers whether there may be more. */
  private cancelQueued(projectId: number, kinds: readonly string[]): boolean {
    const jobs = this.db.jobs.lastQueued(projectId, kinds, CANCELLED_AT_ONCE);
    this.db.transaction(() => {
      this.db.jobs.endAll(jobs.map(({ id }) => id));
      for (const [kind, own] of groupBy(jobs, (job) => job.kind)) {
        const handler = this.handlers.get(kind);
        if (handler?.cancelAll) handler.cancelAll(own);
        else for (const job of own) handler?.cancel(job);
      }
    });
    return jobs.length === CANCELLED_AT_ONCE;
  }

  /** Stops taking jobs and ends the running ones; they are queued again, and it counts as no attempt. */
  async stop(): Promise<void> {
    this.stopping.abort();
    for (const { abort } of this.running.values()) abort.abort();
    await Promise.all(this.settled);
  }

  /** Resolves when nothing is queued or running any more. For the demo, scripts and tests. */
  async idle(): Promise<void> {
    while (this.settled.size > 0) await Promise.all(this.settled);
  }

  private async work(job: Job, { abort, pause }: Running): Promise<void> {
    const temporaries: string[] = [];
    const temporary = () => {
      const path = this.around.temporaryPath();
      temporaries.push(path);
      return path;
    };
    let end: (() => void) | null = null;
    try {
      await this.attempt(job, { signal: abort.signal, pause }, temporary);
    } catch (error) {
      end = this.endAfter(job, error, abort.signal.aborted);
    }
    // Also to make the room that a full disk needs to write down how it ended.
    await Promise.all(temporaries.map((path) => rm(path, { force: true }).catch(() => undefined)));
    if (end) await this.write(job, end);
  }

  private async attempt(
    job: Job,
    { signal, pause }: Pick<RunOptions, 'signal' | 'pause'>,
    temporary: () => string,
  ): Promise<void> {
    const handler = this.handlerOf(job);
    const isWanted = this.db.transaction(() => {
      const basis = this.basisOf(job);
      if (basis === null) this.db.jobs.end(job.id);
      else {
        this.db.jobs.setBasis(job.id, basis);
        handler.start(job);
      }
      return basis !== null;
    });
    this.events.changed(job.projectId);
    if (!isWanted) return;
    let isOver = false;
    const commit = (write: () => void) => {
      const counted = this.db.transaction(() => this.conclude(job, write));
      isOver = true;
      this.events.changed(job.projectId);
      return counted;
    };
    const progress = (share: number) => {
      this.db.jobs.setProgress(job.id, share);
      this.events.progressed({ ...job, progress: share });
    };
    if (handler.lane === 'alone') await this.around.quiet();
    await handler.run(job, { signal, pause, progress, isApart: job.isSuspect, temporary, commit });
    if (!isOver) commit(() => undefined);
  }

  private endAfter(job: Job, error: unknown, isAborted: boolean): () => void {
    const { jobs } = this.db;
    const handler = this.handlerOf(job);
    if (this.stopping.signal.aborted) return () => jobs.requeue(job.id);
    const facts = errorFacts(error);
    if (isAborted) return () => void this.conclude(job, () => handler.cancel(job));
    // What is no error of ours is a thread that fell over, which need not be this job's fault.
    const isExplained = error instanceof BijouError || facts.code === 'disk';
    if (!isExplained && job.attempts + 1 < MOST_ATTEMPTS) {
      console.error(`Job ${job.id} (${job.kind}) fell over and is tried again:`, error);
      return () => jobs.suspect(job.id);
    }
    return () =>
      void this.conclude(job, () => handler.fail(job, isExplained ? facts : errorFacts(gaveUp())));
  }

  /**
   * Writes down how a job ended. A full disk makes it wait: nothing stays "running". What cannot be written
   * for another reason is a failure of the job, and at the very least its end.
   */
  private async write(job: Job, end: () => void): Promise<void> {
    const failing = (error: unknown) =>
      this.endAfter({ ...job, attempts: MOST_ATTEMPTS }, error, false);
    const others: ((error: unknown) => () => void)[] = [
      failing,
      () => () => this.db.jobs.end(job.id),
    ];
    for (;;) {
      try {
        this.db.transaction(end);
        break;
      } catch (error) {
        if (this.stopping.signal.aborted) return;
        console.error(`The end of job ${job.id} (${job.kind}) could not be written down:`, error);
        const isFull = errorFacts(error).code === 'disk';
        if (isFull) await this.pause(WRITE_AGAIN_MS);
        else end = others.shift()?.(error) ?? (() => undefined);
      }
    }
    this.events.changed(job.projectId);
  }

  private pause(ms: number): Promise<void> {
    const { signal } = this.stopping;
    return new Promise((resume) => {
      const timer = setTimeout(resume, ms);
      signal.addEventListener('abort', () => (clearTimeout(timer), resume()), { once: true });
    });
  }
}

function endedOver(): BijouError {
  return new BijouError(
    'memory',
    `Bijou was ended ${MOST_ATTEMPTS} times while it was at work on this, and has given it up.`,
    'Make it smaller, or try again when the machine has more memory free.',
  );
}

function gaveUp(): BijouError {
  return new BijouError(
    'internal',
    `Working on it failed ${MOST_ATTEMPTS} times without a reason being given.`,
    'Try again when the machine has less to do. If it fails again, export the file anew, and report this with it.',
  );
}
