import { stat } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { dirname, join } from 'node:path';
import { MessageChannel } from 'node:worker_threads';
import { Piscina } from 'piscina';
import type { TrialFigures } from '@/core/compare/trial';
import type { WorkFigures } from '@/core/compare/work';
import { BijouError, fromErrorFacts } from '@/core/errors';
import type { Outcome } from '@/core/recipe/outcome';
import { MOST_OVERTAKEN } from '../limits';
import { runApart } from './runApart';
import type { ListenTask } from './listenTasks';
import type { LaidOut } from './outlinePack';
import type { PlannedPack } from './planPack';
import type { SaidOfPack } from './rehearsePack';
import { mostMs } from './tasks';
import type {
  Answer,
  BodyTask,
  CopyTask,
  DecodingTask,
  EncodeResult,
  EncodeTask,
  IconTask,
  IndexTask,
  JoinResult,
  JoinTask,
  LookedIndex,
  OutcomeTask,
  OutlineTask,
  PlanTask,
  ReadResult,
  ReadTask,
  RehearseTask,
  Task,
  TrialTask,
} from './tasks';

export interface RunOptions {
  signal: AbortSignal;
  progress: (share: number) => void;
  /** Not 0 while the task is to wait, as far as it can. */
  pause?: Int32Array | undefined;
  /** In a process of its own, because the task may bring down what it runs in. */
  isApart?: boolean;
}

/** What a thread may take for what is no samples; blocks of samples lie outside of it. */
const MOST_HEAP_MB = 1_024;

/** How many jobs run at a time. */
export function threadCount(): number {
  return Math.max(1, Math.min(8, availableParallelism()));
}

/** Worker threads. A task that brings its thread down fails alone; the pool starts another thread. */
export class WorkerPool {
  private readonly pool: Piscina;

  constructor(
    private readonly worker = defaultWorker(),
    threads = threadCount(),
    /** How long any task may take; otherwise that depends on how much there is to do. */
    private readonly mostMs?: number,
    /** Threads for those that are overtaken: they have theirs still. */
    spare = MOST_OVERTAKEN,
  ) {
    this.pool = new Piscina({
      filename: worker,
      minThreads: 1,
      maxThreads: threads + spare,
      idleTimeout: 30_000,
      execArgv: [],
      resourceLimits: { maxOldGenerationSizeMb: MOST_HEAP_MB },
    });
  }

  run(task: ReadTask, options?: Partial<RunOptions>): Promise<ReadResult>;
  run(task: CopyTask, options?: Partial<RunOptions>): Promise<boolean>;
  run(task: EncodeTask, options?: Partial<RunOptions>): Promise<EncodeResult>;
  run(task: JoinTask, options?: Partial<RunOptions>): Promise<JoinResult>;
  run(task: OutcomeTask, options?: Partial<RunOptions>): Promise<Outcome>;
  run(task: TrialTask, options?: Partial<RunOptions>): Promise<TrialFigures>;
  run(task: DecodingTask, options?: Partial<RunOptions>): Promise<WorkFigures[]>;
  run(task: RehearseTask, options?: Partial<RunOptions>): Promise<SaidOfPack>;
  run(task: PlanTask, options?: Partial<RunOptions>): Promise<PlannedPack>;
  run(task: OutlineTask, options?: Partial<RunOptions>): Promise<LaidOut>;
  run(task: IndexTask, options?: Partial<RunOptions>): Promise<LookedIndex>;
  run(task: IconTask, options?: Partial<RunOptions>): Promise<Uint8Array>;
  async run(
    task: Task,
    {
      signal = new AbortController().signal,
      progress = () => undefined,
      pause,
      isApart = false,
    }: Partial<RunOptions> = {},
  ): Promise<unknown> {
    const limit = AbortSignal.timeout(this.mostMs ?? mostMs(task, await bytesOf(task)));
    const either = AbortSignal.any([signal, limit]);
    try {
      const answer = isApart
        ? await runApart(join(dirname(this.worker), 'apart.mjs'), task, either, progress)
        : await this.runInThread({ task, pause }, either, progress);
      if (!answer.ok) throw fromErrorFacts(answer.error);
      return answer.result;
    } catch (error) {
      if (signal.aborted) throw cancelled();
      if (limit.aborted) throw tooSlow();
      throw error;
    }
  }

  private async runInThread(
    what: { task: Task; pause: Int32Array | undefined },
    signal: AbortSignal,
    progress: (share: number) => void,
  ): Promise<Answer<unknown>> {
    const { port1, port2 } = new MessageChannel();
    port1.on('message', progress);
    // Waiting for progress must not keep the process alive.
    port1.unref();
    try {
      return (await this.pool.run(
        { ...what, port: port2 },
        { transferList: [port2], signal },
      )) as Answer<unknown>;
    } finally {
      port1.close();
    }
  }

  async close(): Promise<void> {
    await this.pool.destroy();
  }
}

/** How large the file is that is worked on. What is not there is found out by whoever reads it. */
async function bytesOf(task: Task): Promise<number> {
  if (task.kind !== 'read' && task.kind !== 'copy') return 0;
  return stat(task.source).then(
    ({ size }) => size,
    () => 0,
  );
}

function tooSlow(): BijouError {
  return new BijouError(
    'too-slow',
    'It took much longer than it should and was given up.',
    'Try again when the machine has less to do. If it happens again, report it with the file.',
  );
}

function cancelled(): BijouError {
  return new BijouError('cancelled', 'It was cancelled.', 'Start it again when you like.');
}

/** Packs that are laid out at a time, and how long that may take: no pack that anybody needs takes a tenth of it. */
const PLANNERS = 2;
const PLANNING_MS = 20_000;

/**
 * Threads in which packs are laid out and what comes with them is looked at: templates, indexes and icons of strangers
 * hold up nothing but themselves.
 */
export class Planner {
  private readonly pool: WorkerPool;

  constructor(worker?: string, mostMs = PLANNING_MS) {
    this.pool = new WorkerPool(worker, PLANNERS, mostMs, 0);
  }

  /** @throws what the task says, too-slow, memory */
  async ask<Kind extends PlanningTask['kind']>(
    task: Extract<PlanningTask, { kind: Kind }>,
    options?: Partial<RunOptions>,
  ): Promise<PlanningResults[Kind]> {
    try {
      return (await this.pool.run(task as PlanTask, options)) as PlanningResults[Kind];
    } catch (error) {
      throw error instanceof BijouError ? error : tooLargeToPlan(error);
    }
  }

  close(): Promise<void> {
    return this.pool.close();
  }
}

type PlanningTask = PlanTask | OutlineTask | IndexTask | IconTask | BodyTask;
interface PlanningResults {
  plan: PlannedPack;
  outline: LaidOut;
  index: LookedIndex;
  body: unknown;
  icon: Uint8Array;
}

/** A thread that fell over: what it was asked took more memory than it may have. */
function tooLargeToPlan(error: unknown): BijouError {
  console.error('A planning thread fell over:', error);
  return new BijouError(
    'memory',
    'Laying it out takes more memory than there is for it.',
    'Make its texts smaller: see what in its layout holds most.',
  );
}

/** How many questions the listening thread works on at a time. */
const LISTENERS = 32;

/**
 * The thread that previews and pictures come from. It is one, so that what was measured once is known;
 * and it is apart from the others, so that listening never waits for building.
 */
export class ListeningThread {
  private readonly pool: Piscina;
  private readonly asked = new Set<Promise<unknown>>();

  constructor(worker = defaultWorker()) {
    this.pool = new Piscina({
      filename: worker,
      name: 'answer',
      minThreads: 1,
      maxThreads: 1,
      concurrentTasksPerWorker: LISTENERS,
      execArgv: [],
      resourceLimits: { maxOldGenerationSizeMb: MOST_HEAP_MB },
    });
  }

  /** `signal` tells when nobody waits for the answer any more; others may wait for what it measures. */
  async ask<Result>(task: ListenTask, signal?: AbortSignal): Promise<Result> {
    const gone = new Int32Array(new SharedArrayBuffer(4));
    const leave = () => void Atomics.store(gone, 0, 1);
    if (signal?.aborted) throw cancelled();
    signal?.addEventListener('abort', leave);
    try {
      const answering = this.pool.run({ task, gone }) as Promise<Answer<Result>>;
      this.asked.add(answering);
      const answer = await answering.finally(() => this.asked.delete(answering));
      if (!answer.ok) throw fromErrorFacts(answer.error);
      return answer.result;
    } finally {
      signal?.removeEventListener('abort', leave);
    }
  }

  /** Resolves when nothing is being answered. */
  async quiet(): Promise<void> {
    while (this.asked.size > 0) await Promise.allSettled(this.asked);
  }

  async close(): Promise<void> {
    await this.pool.destroy();
  }
}

function defaultWorker(): string {
  return join(process.cwd(), 'dist', 'worker.mjs');
}
