import { rm } from 'node:fs/promises';
import { BijouError, errorFacts } from '@/core/errors';
import type { Job } from '@/wire';
import type { Database } from '../db';
import { MOST_OVERTAKEN } from '../limits';
import type { JobHandler, Lane } from './kind';

/** A job that brings down what it runs in this often is given up. */
const MOST_ATTEMPTS = 3;
/** What cannot be written down, for want of room on the disk, is tried again so often. */
const WRITE_AGAIN_MS = 2_000;

/** After so long others overtake a job that may be overtaken. */
const SLOW_MS = 2_000;

/** In which order kinds are taken: what is waited for most, what is usual, what nobody waits for. */
const RANKS = ['next', 'usual', 'quiet'] as const;
type Rank = (typeof RANKS)[number];

/** A job that is being done. */
interface Running {
  abort: AbortController;
  lane: Lane;
  isSlow: boolean;
}

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

  constructor(
    private readonly db: Pick<Database, 'jobs' | 'transaction'>,
    private readonly handlers: ReadonlyMap<string, JobHandler>,
    private readonly events: JobEvents,
    private readonly around: Surroundings,
  ) {}

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
    this.db.transaction(() => {
      handler.fail(job, errorFacts(endedOver()));
      this.db.jobs.end(job.id);
    });
    this.events.changed(job.projectId);
  }

  /** Starts as many queued jobs as there is room for. Call after adding some. */
  pump(): void {
    while (!this.stopping.signal.aborted) {
      const job = this.next();
      if (!job) return;
      const abort = new AbortController();
      const { lane, isOvertaken } = this.handlerOf(job);
      const running: Running = { abort, lane, isSlow: false };
      this.running.set(job.id, running);
      const slow = isOvertaken && setTimeout(() => this.overtake(running), SLOW_MS);
      const done = this.work(job, abort).finally(() => {
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

  /** The oldest queued job that there is room for, now marked as running. */
  private next(): Job | undefined {
    if (this.inLane('alone') > 0) return undefined;
    const slow = [...this.running.values()].filter(({ isSlow }) => isSlow).length;
    const room = this.around.threads + Math.min(slow, MOST_OVERTAKEN);
    const threads = this.inLane('threads') < room ? this.kindsOf('threads') : [];
    const beside = this.inLane('beside') === 0 ? this.kindsOf('beside') : [];
    const here = [...threads, ...beside];
    const job = RANKS.reduce<Job | undefined>(
      (found, rank) =>
        found ?? this.db.jobs.claim(here.filter((kind) => this.rankOf(kind) === rank)),
      undefined,
    );
    // Where nothing is running there was room for all others: none of them waits.
    return job ?? (this.running.size === 0 ? this.db.jobs.claim(this.kindsOf('alone')) : undefined);
  }

  private rankOf(kind: string): Rank {
    const { isNext, isQuiet } = this.handlers.get(kind) ?? {};
    return isNext ? 'next' : isQuiet ? 'quiet' : 'usual';
  }

  private inLane(lane: Lane): number {
    return [...this.running.values()].filter((job) => job.lane === lane).length;
  }

  private kindsOf(lane: Lane): string[] {
    return [...this.handlers].filter(([, handler]) => handler.lane === lane).map(([kind]) => kind);
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

  private async work(job: Job, abort: AbortController): Promise<void> {
    const temporaries: string[] = [];
    const temporary = () => {
      const path = this.around.temporaryPath();
      temporaries.push(path);
      return path;
    };
    let end: (() => void) | null = null;
    try {
      await this.attempt(job, abort.signal, temporary);
    } catch (error) {
      end = this.endAfter(job, error, abort.signal.aborted);
    }
    // Also to make the room that a full disk needs to write down how it ended.
    await Promise.all(temporaries.map((path) => rm(path, { force: true }).catch(() => undefined)));
    if (end) await this.write(job, end);
  }

  private async attempt(job: Job, signal: AbortSignal, temporary: () => string): Promise<void> {
    const handler = this.handlerOf(job);
    this.db.transaction(() => handler.start(job));
    this.events.changed(job.projectId);
    let isOver = false;
    const commit = (write: () => void) => {
      this.db.transaction(() => {
        write();
        this.db.jobs.end(job.id);
      });
      isOver = true;
      this.events.changed(job.projectId);
    };
    const progress = (share: number) => {
      this.db.jobs.setProgress(job.id, share);
      this.events.progressed({ ...job, progress: share });
    };
    if (handler.lane === 'alone') await this.around.quiet();
    await handler.run(job, { signal, progress, isApart: job.isSuspect, temporary, commit });
    if (!isOver) commit(() => undefined);
  }

  private endAfter(job: Job, error: unknown, isAborted: boolean): () => void {
    const { jobs } = this.db;
    const handler = this.handlerOf(job);
    if (this.stopping.signal.aborted) return () => jobs.requeue(job.id);
    const facts = errorFacts(error);
    if (isAborted) {
      return () => {
        handler.cancel(job);
        jobs.end(job.id);
      };
    }
    // What is no error of ours is a thread that fell over, which need not be this job's fault.
    const isExplained = error instanceof BijouError || facts.code === 'disk';
    if (!isExplained && job.attempts + 1 < MOST_ATTEMPTS) {
      console.error(`Job ${job.id} (${job.kind}) fell over and is tried again:`, error);
      return () => jobs.suspect(job.id);
    }
    return () => {
      handler.fail(job, isExplained ? facts : errorFacts(gaveUp()));
      jobs.end(job.id);
    };
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
