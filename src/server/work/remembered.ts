import { LRUCache } from 'lru-cache';
import { Interest, type Asker } from './interest';

/** What is being worked out, and who waits for it. */
interface Pending<Value> {
  value: Promise<Value>;
  interest: Interest;
}

/**
 * Results that are worked out once and kept while there is room, those used longest ago going first.
 * Who asks while one is being worked out waits for it. Failures are not kept.
 */
export class Remembered<Value> {
  private readonly kept: LRUCache<string, { value: Value }>;
  private readonly pending = new Map<string, Pending<Value>>();

  constructor({ most, size = () => 1 }: { most: number; size?: (value: Value) => number }) {
    this.kept = new LRUCache({
      maxSize: most,
      sizeCalculation: ({ value }) => Math.max(1, size(value)),
    });
  }

  /** `make` is told who is interested, and should ask now and then whether they still are. */
  async get(
    key: string,
    asker: Asker,
    make: (interest: Interest) => Promise<Value>,
  ): Promise<Value> {
    const known = this.kept.get(key);
    if (known) return known.value;
    const { value, interest } = this.pending.get(key) ?? this.begin(key, asker, make);
    const leave = interest.join(asker);
    try {
      return await value;
    } finally {
      leave();
    }
  }

  /** Keeps a value that has come up on the way. */
  put(key: string, value: Value): void {
    if (!this.pending.has(key)) this.kept.set(key, { value });
  }

  private begin(
    key: string,
    asker: Asker,
    make: (interest: Interest) => Promise<Value>,
  ): Pending<Value> {
    const interest = new Interest();
    interest.join(asker);
    const value = make(interest).then((made) => {
      this.kept.set(key, { value: made });
      return made;
    });
    const pending = { value, interest };
    this.pending.set(key, pending);
    // Whoever waits hears of a failure.
    value.catch(() => undefined).finally(() => this.pending.delete(key));
    return pending;
  }
}
