import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { MessageChannel } from 'node:worker_threads';
import { Piscina } from 'piscina';
import { BijouError, fromErrorFacts } from '@/core/errors';
import type { Answer, BuildResult, BuildTask, ReadResult, ReadTask, Task } from './tasks';

export interface RunOptions {
  signal: AbortSignal;
  progress: (share: number) => void;
}

/** How many jobs run at a time. */
export function threadCount(): number {
  return Math.max(1, Math.min(8, availableParallelism()));
}

/** Worker threads. A task that brings its thread down fails alone; the pool starts another thread. */
export class WorkerPool {
  private readonly pool: Piscina;

  constructor(worker = join(process.cwd(), 'dist', 'worker.mjs'), threads = threadCount()) {
    this.pool = new Piscina({
      filename: worker,
      minThreads: 1,
      maxThreads: threads,
      idleTimeout: 30_000,
    });
  }

  run(task: ReadTask, options: RunOptions): Promise<ReadResult>;
  run(task: BuildTask, options: RunOptions): Promise<BuildResult>;
  async run(task: Task, { signal, progress }: RunOptions): Promise<ReadResult | BuildResult> {
    const { port1, port2 } = new MessageChannel();
    port1.on('message', progress);
    // Waiting for progress must not keep the process alive.
    port1.unref();
    try {
      const answer = (await this.pool.run(
        { task, port: port2 },
        { transferList: [port2], signal },
      )) as Answer<ReadResult | BuildResult>;
      if (!answer.ok) throw fromErrorFacts(answer.error);
      return answer.result;
    } catch (error) {
      if (signal.aborted) throw cancelled();
      throw error;
    } finally {
      port1.close();
    }
  }

  async close(): Promise<void> {
    await this.pool.destroy();
  }
}

function cancelled(): BijouError {
  return new BijouError('cancelled', 'It was cancelled.', 'Start it again when you like.');
}
