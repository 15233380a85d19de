import type { Job } from '@/wire';
import type { Database } from '../db';
import { MOST_OVERTAKEN } from '../limits';
import type { JobHandler, Lane } from './kind';
import { isPressing, RANK, type Rank } from './ranks';

/** A job that is being done. */
export interface Running {
  abort: AbortController;
  kind: string;
  projectId: number;
  lane: Lane;
  rank: Rank;
  /** It takes long and may be overtaken. */
  isSlow: boolean;
  /** Not 0 while it has to wait. */
  pause: Int32Array;
}

/** Which job is begun next: each lane has its own rule for how many there may be at a time. */
export class Lanes {
  constructor(
    private readonly jobs: Pick<Database['jobs'], 'claim'>,
    private readonly handlers: ReadonlyMap<string, JobHandler>,
    private readonly threads: number,
  ) {}

  /** The first queued job that there is room for, now marked as running. */
  next(running: readonly Running[]): Job | undefined {
    const alone = running.find(({ lane }) => lane === 'alone');
    if (!alone) {
      const job = this.claim(running, RANK.quiet);
      // Where nothing is running there was room for all others: none of them waits.
      return (
        job ?? (running.length === 0 ? this.take(this.kindsOf('alone'), RANK.quiet) : undefined)
      );
    }
    // It waits for what somebody waits for, and goes on behind that.
    const job = this.claim(
      running.filter((one) => one !== alone),
      RANK.usual,
    );
    hold(alone, job !== undefined || running.length > 1);
    return job;
  }

  private claim(running: readonly Running[], most: Rank): Job | undefined {
    const inThreads = running.filter(({ lane }) => lane === 'threads');
    const pressing = inThreads.filter(({ rank }) => isPressing(rank));
    const slow = Math.min(inThreads.filter(({ isSlow }) => isSlow).length, MOST_OVERTAKEN);
    const room = this.threads + slow - inThreads.length;
    const roomBeside = Math.min(
      this.threads + slow - pressing.length,
      this.threads + MOST_OVERTAKEN - inThreads.length,
    );
    const busy = new Set(running.map(({ kind }) => kind));
    const beside = this.kindsOf('beside').filter((kind) => !busy.has(kind));
    const threads = this.kindsOf('threads');
    const pressed = [...beside, ...(roomBeside > 0 ? threads : [])];
    const job = this.take(pressed, RANK.usual);
    if (job || most <= RANK.usual) return job;
    return this.take([...beside, ...(room > 0 ? threads : [])], most);
  }

  private take(kinds: readonly string[], most: Rank): Job | undefined {
    return kinds.length === 0 ? undefined : this.jobs.claim(kinds, most);
  }

  private kindsOf(lane: Lane): string[] {
    return [...this.handlers].filter(([, handler]) => handler.lane === lane).map(([kind]) => kind);
  }
}

/** Has a job wait between two steps, or go on. */
function hold({ pause }: Running, isHeld: boolean): void {
  Atomics.store(pause, 0, isHeld ? 1 : 0);
  if (!isHeld) Atomics.notify(pause, 0);
}
