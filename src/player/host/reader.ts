import { fromErrorFacts } from '@/core/errors';
import type { Brought, DecodedSound, HostAnswer, HostQuestion, LoadedPack } from './messages';

interface Waiting {
  done(value: unknown): void;
  failed(error: unknown): void;
}

/** So long a pack may take to be looked at before it is given up. */
const MOST_LOADING_MS = 120_000;

/** Reads packs in a worker of its own: what hangs or falls over there is given up, and the page goes on. */
export class PackReader {
  private worker: Worker | null = null;
  private readonly waiting = new Map<number, Waiting>();
  private last = 0;

  /** Has a host look at a pack; what was loaded before is forgotten, and given up if it is not done. @throws as the worker */
  async load(hostId: string, brought: Brought): Promise<LoadedPack> {
    // One that is free has its code read already.
    if (this.waiting.size > 0) this.close();
    const timeout = setTimeout(
      () => this.fall('It takes too long to look at it.'),
      MOST_LOADING_MS,
    );
    try {
      return (await this.ask({ does: 'load', hostId, brought })) as LoadedPack;
    } finally {
      clearTimeout(timeout);
    }
  }

  /** All samples of a sound of the pack that was loaded. @throws as the worker */
  async decode(file: string): Promise<DecodedSound> {
    return (await this.ask({ does: 'decode', file })) as DecodedSound;
  }

  close(): void {
    this.fall('It was left.');
  }

  private ask(question: HostQuestion): Promise<unknown> {
    const worker = (this.worker ??= this.begin());
    const id = ++this.last;
    return new Promise((done, failed) => {
      this.waiting.set(id, { done, failed });
      worker.postMessage({ id, ...question });
    });
  }

  private begin(): Worker {
    const worker = new Worker('/workers/host.js', { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<HostAnswer>) => {
      const waiting = this.waiting.get(data.id);
      this.waiting.delete(data.id);
      if ('error' in data) waiting?.failed(fromErrorFacts(data.error));
      else waiting?.done(data.value);
    };
    worker.onerror = (event) => {
      event.preventDefault();
      this.fall('What reads packs has fallen over it.');
    };
    return worker;
  }

  /** Ends the worker, and everything that waits for it. */
  private fall(message: string): void {
    this.worker?.terminate();
    this.worker = null;
    const hint = 'Bring the pack again.';
    for (const { failed } of this.waiting.values()) {
      failed(fromErrorFacts({ code: 'cancelled', message, hint }));
    }
    this.waiting.clear();
  }
}
