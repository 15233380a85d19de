import { BijouError } from '@/core/errors';

/**
 * How urgent a question is: what is heard comes first, then what somebody looks at, then the figures of the
 * result, last of all those of single steps.
 */
export type Urgency = 0 | 1 | 2 | 3;

/** A question as the thread knows it that answers. */
export interface Asker {
  urgency: Urgency;
  /** Set to 1 when nobody waits for the answer any more. */
  gone: Int32Array;
  /** When it has taken too long, by `performance.now()`. */
  deadline: number;
}

/** Who waits right now, by urgency. */
const waiting = [0, 0, 0, 0];

/** Does what a question asks for, while less urgent measuring rests. */
export async function answering<T>({ urgency }: Asker, work: () => Promise<T>): Promise<T> {
  waiting[urgency]!++;
  try {
    return await work();
  } finally {
    waiting[urgency]!--;
  }
}

/** All who wait for one thing that is being worked out. */
export class Interest {
  private readonly askers = new Set<Asker>();

  join(asker: Asker): () => void {
    this.askers.add(asker);
    return () => void this.askers.delete(asker);
  }

  /** The most urgent of them. */
  private get urgency(): number {
    return Math.min(...[...this.askers].map(({ urgency }) => urgency));
  }

  /**
   * To be called now and then while measuring: rests while something more urgent is waited for.
   * @throws cancelled when nobody waits any more, too-slow
   */
  async rest(): Promise<void> {
    for (;;) {
      const left = [...this.askers].filter(({ gone }) => Atomics.load(gone, 0) === 0);
      if (left.length === 0) throw nobodyWaits();
      if (left.every(({ deadline }) => performance.now() > deadline)) throw tooSlow();
      // Messages come in between, whatever is read from.
      await new Promise((resume) => setImmediate(resume));
      if (!waiting.slice(0, this.urgency).some((count) => count > 0)) return;
    }
  }
}

function nobodyWaits(): BijouError {
  return new BijouError('cancelled', 'Nobody waits for it any more.', 'Ask again.');
}

function tooSlow(): BijouError {
  return new BijouError(
    'too-slow',
    'Working it out took too long and was given up.',
    'Try again when the machine has less to do, or with a shorter sound.',
  );
}
