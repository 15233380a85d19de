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

  private constructor(
    readonly threads: number,
    private readonly pool: Piscina | null,
  ) {
    this.stopped = new Promise((_, reject) => (this.stopWaiting = reject));
    this.stopped.catch(() => undefined);
  }

  static async of(threads: number): Promise<Crew> {
    if (threads === 1) return new Crew(1, null);
    const { Piscina } = await import('piscina');
    const filename = fileURLToPath(new URL('./cliWorker.mjs', import.meta.url));
    return new Crew(threads, new Piscina({ filename, minThreads: threads, maxThreads: threads }));
  }

  /** How many files are begun at a time, so that nobody has to wait for one that takes long. */
  get width(): number {
    return this.pool ? this.threads * 4 : 1;
  }

  /** @throws what the task says; cancelled once the crew was stopped. */
  async do<Kind extends Task['kind']>(task: Extract<Task, { kind: Kind }>): Promise<Results[Kind]> {
    const work = this.pool
      ? (this.pool.run(task) as Promise<Answer<unknown>>)
      : import('./doTask').then(({ doTask }) => doTask(task));
    const answer = await Promise.race([work, this.stopped]);
    if (!answer.ok) throw fromErrorFacts(answer.error);
    return answer.result as Results[Kind];
  }

  /** Ends what is being done. */
  async stop(): Promise<void> {
    this.stopWaiting(new BijouError('cancelled', 'It was stopped.', 'Call it again.'));
    await this.close();
  }

  async close(): Promise<void> {
    await this.pool?.destroy();
  }
}
