import { ListeningThread, Planner, threadCount, WorkerPool } from './pool';

/** The threads that work is done in. Each kind is begun when it is first needed: most commands never start one. */
export class Threads {
  private workers: WorkerPool | null = null;
  private listening: ListeningThread | null = null;
  private planning: Planner | null = null;

  constructor(
    /** Path of their code. */
    private readonly worker?: string,
    /** How many jobs run at a time. */
    readonly count = threadCount(),
  ) {}

  readonly pool = () => (this.workers ??= new WorkerPool(this.worker, this.count));
  readonly listener = () => (this.listening ??= new ListeningThread(this.worker));
  readonly planner = () => (this.planning ??= new Planner(this.worker));

  /** Resolves when nothing is being answered. */
  async quiet(): Promise<void> {
    await this.listening?.quiet();
  }

  async close(): Promise<void> {
    await this.workers?.close();
    await this.listening?.close();
    await this.planning?.close();
  }
}
