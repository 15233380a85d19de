/**
 * Results that are worked out once and kept while there is room, those used longest ago going first.
 * Who asks while one is being worked out waits for it. Failures are not kept.
 */
export class Remembered<Value> {
  private readonly kept = new Map<string, { value: Promise<Value>; size: number }>();
  private total = 0;

  constructor(private readonly room: { most: number; size?: (value: Value) => number }) {}

  get(key: string, make: () => Promise<Value>): Promise<Value> {
    const found = this.kept.get(key);
    if (found) {
      this.kept.delete(key);
      this.kept.set(key, found);
      return found.value;
    }
    const entry = { value: make(), size: 0 };
    this.kept.set(key, entry);
    entry.value.then(
      (value) => {
        entry.size = this.room.size?.(value) ?? 1;
        this.total += entry.size;
        this.makeRoom();
      },
      () => this.kept.delete(key),
    );
    return entry.value;
  }

  private makeRoom(): void {
    for (const [key, { size }] of this.kept) {
      if (this.total <= this.room.most) return;
      // What is still being worked out takes no room yet.
      if (size === 0) continue;
      this.kept.delete(key);
      this.total -= size;
    }
  }
}
