import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import type { Piscina } from 'piscina';
import { BijouError, fromErrorFacts } from '@/core/errors';
import type { Answer, Results, Task } from './tasks';

/** More threads than any machine of today makes use of. */
const MOST_THREADS = 256;

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
  private isStopped = false;

  constructor(readonly threads: number) {
    this.stopped = new Promise((_, reject) => (this.stopWaiting = reject));
    this.stopped.catch(() => undefined);
  }

  /** Begins the threads when they are first needed. */
  private async begun(): Promise<Piscina> {
    const { Piscina } = await import('piscina');
    const filename = fileURLToPath(new URL('./cliWorker.mjs', import.meta.url));
    return new Piscina({ filename, minThreads: this.threads, maxThreads: this.threads });
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
    if (this.isStopped) throw stoppedByHand();
    const work =
      isHere || this.threads === 1
        ? import('./doTask').then(({ doTask }) => doTask(task))
        : (this.pool ??= this.begun()).then((pool) => pool.run(task) as Promise<Answer<unknown>>);
    const answer = await Promise.race([work, this.stopped]);
    if (!answer.ok) throw fromErrorFacts(answer.error);
    return answer.result as Results[Kind];
  }

  /** Ends what is being done. */
  async stop(): Promise<void> {
    this.isStopped = true;
    this.stopWaiting(stoppedByHand());
    await this.close();
  }

  async close(): Promise<void> {
    await (await this.pool)?.destroy();
  }
}

function stoppedByHand(): BijouError {
  return new BijouError('cancelled', 'It was stopped.', 'Call it again.');
}
