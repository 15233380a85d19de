import type { ByteSource } from '@/core/bytes/source';
import { BijouError } from '@/core/errors';

const BYTES = 8;
const [STOPPED, LOADING] = [0, 1];

/** What a call and its threads share. */
export class Shared {
  private readonly view: Int32Array;

  constructor(readonly memory = new SharedArrayBuffer(BYTES)) {
    this.view = new Int32Array(memory);
  }

  get isStopped(): boolean {
    return Atomics.load(this.view, STOPPED) === 1;
  }

  stop(): void {
    Atomics.store(this.view, STOPPED, 1);
  }

  /** How many threads are still loading what they do: ending one meanwhile would end the process, and badly. */
  get loading(): number {
    return Atomics.load(this.view, LOADING);
  }

  begun(threads: number): void {
    Atomics.add(this.view, LOADING, threads);
  }

  /** Nothing is waited for any more. */
  giveUp(): void {
    Atomics.store(this.view, LOADING, 0);
  }

  loaded(): void {
    Atomics.sub(this.view, LOADING, 1);
  }
}

let shared: Shared | null = null;

/** Says where this thread learns that its call was stopped. */
export function heed(what: Shared | null): void {
  shared = what;
}

/** @throws cancelled once the call was stopped */
export function refuseStopped(): void {
  if (shared?.isStopped) throw stoppedByHand();
}

/** The same bytes, as long as the call goes on: whoever reads them soon ends when it was stopped. */
export function whileGoing(source: ByteSource): ByteSource {
  return {
    size: source.size,
    read(offset, length) {
      refuseStopped();
      return source.read(offset, length);
    },
  };
}

export function stoppedByHand(): BijouError {
  return new BijouError('cancelled', 'It was stopped.', 'Call it again.');
}
