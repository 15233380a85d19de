import { Interest, type Asker } from './interest';

interface Entry<Value> {
  value: Promise<Value>;
  size: number;
  interest: Interest;
}

/**
 * Results that are worked out once and kept while there is room, those used longest ago going first.
 * Who asks while one is being worked out waits for it. Failures are not kept.
 */
export class Remembered<Value> {
  private readonly kept = new Map<string, Entry<Value>>();
  private total = 0;

  constructor(private readonly room: { most: number; size?: (value: Value) => number }) {}

  /** `make` is told who is interested, and should ask now and then whether they still are. */
  async get(
    key: string,
    asker: Asker,
    make: (interest: Interest) => Promise<Value>,
  ): Promise<Value> {
    const found = this.kept.get(key) ?? this.begin(key, asker, make);
    this.kept.delete(key);
    this.kept.set(key, found);
    const leave = found.interest.join(asker);
    try {
      return await found.value;
    } finally {
      leave();
    }
  }

  /** Keeps a value that has come up on the way. */
  put(key: string, value: Value): void {
    if (this.kept.has(key)) return;
    const entry = { value: Promise.resolve(value), size: 0, interest: new Interest() };
    this.kept.set(key, entry);
    this.sized(entry, value);
  }

  private begin(
    key: string,
    asker: Asker,
    make: (interest: Interest) => Promise<Value>,
  ): Entry<Value> {
    const interest = new Interest();
    interest.join(asker);
    const entry = { value: make(interest), size: 0, interest };
    entry.value.then(
      (value) => this.sized(entry, value),
      () => this.kept.delete(key),
    );
    return entry;
  }

  private sized(entry: Entry<Value>, value: Value): void {
    entry.size = this.room.size?.(value) ?? 1;
    this.total += entry.size;
    for (const [key, { size }] of this.kept) {
      if (this.total <= this.room.most) return;
      // What is still being worked out takes no room yet.
      if (size === 0) continue;
      this.kept.delete(key);
      this.total -= size;
    }
  }
}
