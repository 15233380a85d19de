/** Work on things that are known by a key: on each of them one after the other. */
export class Turns {
  private readonly last = new Map<string, Promise<unknown>>();

  async take<T>(key: string, work: () => Promise<T>): Promise<T> {
    const before = this.last.get(key) ?? Promise.resolve();
    const mine = before.then(work, work);
    const settled = mine.catch(() => undefined);
    this.last.set(key, settled);
    try {
      return await mine;
    } finally {
      if (this.last.get(key) === settled) this.last.delete(key);
    }
  }
}
