import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import type { Piscina } from 'piscina';
import { BijouError, errorFacts, fromErrorFacts } from '@/core/errors';
import { heed, refuseStopped, Shared, stoppedByHand } from './stopping';
import type { Answer, Results, Task } from './tasks';

/** More threads than any machine of today makes use of. */
const MOST_THREADS = 256;
/** So often it is looked whether threads have come to their end. */
const LOOK_EVERY_MS = 10;

/** How many threads `--threads` asks for; as many as there are cores without it. @throws wrong-call */
export function threadCount(text: string | undefined): number {
  if (text === undefined) return availableParallelism();
  const threads = Number(text);
  if (/^\d+$/.test(text) && threads >= 1 && threads <= MOST_THREADS) return threads;
  throw new BijouError(
    'wrong-call',
    `--threads cannot be "${text}".`,
    `Give a number from 1 to ${MOST_THREADS}.`,
  );
}

/** Those who work on the files of one call: threads, or for one at a time this very one. */
export class Crew {
  private stopWaiting: (error: Error) => void = () => undefined;
  private readonly stopped: Promise<never>;
  private pool: Promise<Piscina> | null = null;
  private readonly shared = new Shared();
  /** Tasks that have not come to their end. */
  private open = 0;

  /** `isApart` has even a single one work in a thread of its own: what it does holds this one up for long. */
  constructor(
    readonly threads: number,
    private readonly isApart = false,
  ) {
    this.stopped = new Promise((_, reject) => (this.stopWaiting = reject));
    this.stopped.catch(() => undefined);
    heed(this.shared);
  }

  /** Begins the threads when they are first needed. */
  private async begun(): Promise<Piscina> {
    const { threads: minThreads, shared } = this;
    const { Piscina } = await import('piscina');
    refuseStopped();
    shared.begun(minThreads);
    const filename = fileURLToPath(new URL('./cliWorker.mjs', import.meta.url));
    const workerData = shared.memory;
    const pool = new Piscina({ filename, minThreads, maxThreads: minThreads, workerData });
    // A thread that could not begin, or fell over: nobody may wait for it.
    pool.on('error', (error: unknown) => {
      shared.giveUp();
      this.stopWaiting(fromErrorFacts(errorFacts(error)));
    });
    return pool;
  }

  /** How many files are begun at a time, so that nobody has to wait for one that takes long. */
  get width(): number {
    return this.threads > 1 ? this.threads * 4 : 1;
  }

  /**
   * Does a task, in a thread or right here.
   * @throws what the task says; cancelled once the crew was stopped.
   */
  async do<Kind extends Task['kind']>(
    task: Extract<Task, { kind: Kind }>,
    isHere = false,
  ): Promise<Results[Kind]> {
    if (this.shared.isStopped) throw stoppedByHand();
    const work = this.begin(task, isHere);
    this.open++;
    work.catch(() => undefined).finally(() => this.open--);
    const answer = await Promise.race([work, this.stopped]);
    if (!answer.ok) throw fromErrorFacts(answer.error);
    return answer.result as Results[Kind];
  }

  private async begin(task: Task, isHere: boolean): Promise<Answer<unknown>> {
    if (isHere || (this.threads === 1 && !this.isApart)) {
      return import('./doTask').then(({ doTask }) => doTask(task));
    }
    return (await (this.pool ??= this.begun())).run(task) as Promise<Answer<unknown>>;
  }

  /** Lets others have their turn: signals, first of all. @throws cancelled once the crew was stopped */
  async breathe(): Promise<void> {
    await new Promise((resume) => setImmediate(resume));
    refuseStopped();
  }

  /**
   * Whoever waits for a task is told at once; resolves when the threads have come to their end. They end by themselves,
   * where they next read: one that is ended while it loads takes the whole process along.
   */
  async stop(): Promise<void> {
    this.shared.stop();
    this.stopWaiting(stoppedByHand());
    while (this.open > 0 || this.isLoading) {
      await new Promise((resume) => setTimeout(resume, LOOK_EVERY_MS));
    }
  }

  /** Whether threads are at something that they must not be ended in: each may be loading what it needs for its task. */
  get isFragile(): boolean {
    return this.pool !== null && (this.open > 0 || this.isLoading);
  }

  private get isLoading(): boolean {
    return this.shared.loading > 0;
  }

  async close(): Promise<void> {
    heed(null);
    const pool = await this.pool?.catch(() => null);
    // Also when all is done, threads may still be on their way.
    while (pool && this.isLoading) {
      await new Promise((resume) => setTimeout(resume, LOOK_EVERY_MS));
    }
    await pool?.destroy();
  }
}
