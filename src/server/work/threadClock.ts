import { readFileSync } from 'node:fs';

/** A clock that work is measured with, in milliseconds. */
export interface WorkClock {
  /** Whether it counts what this thread alone worked, and not what passed meanwhile. */
  isOwn: boolean;
  now(): number;
}

const OWN_TIME = '/proc/thread-self/schedstat';
const pause = new Int32Array(new SharedArrayBuffer(4));

/**
 * Processor time of the calling thread where the system tells it (Linux), else the time of day. What helper threads
 * of the engine do (compiling, collecting garbage) is not in it.
 */
export const workClock: WorkClock = ownTime() === null ? passing() : own();

function own(): WorkClock {
  return {
    isOwn: true,
    now() {
      // The system adds up a thread's time when it stops: it stops for as short as it can.
      Atomics.wait(pause, 0, 0, 0.01);
      return ownTime() ?? 0;
    },
  };
}

function passing(): WorkClock {
  return { isOwn: false, now: () => performance.now() };
}

/** The first of three numbers is the time on a processor, in nanoseconds. */
function ownTime(): number | null {
  try {
    const nanoseconds = Number(readFileSync(OWN_TIME, 'utf8').split(' ')[0]);
    return nanoseconds > 0 ? nanoseconds / 1e6 : null;
  } catch {
    return null;
  }
}
