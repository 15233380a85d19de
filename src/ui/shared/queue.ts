/** Does things one after the other. Each is told what the one before it left, if it waited for that. */
export function queue<Left>() {
  let last: Promise<Left | undefined> = Promise.resolve(undefined);
  let waiting = 0;
  return Object.assign(take, {
    /** Whether something is being done; then `settled` resolves when all of it is. */
    isBusy: () => waiting > 0,
    settled: () => last.then(() => undefined),
  });

  async function take<Result>(
    work: (before: Left | undefined) => Promise<{ result: Result; next: Left | undefined }>,
  ): Promise<Result> {
    const before = waiting > 0 ? last : Promise.resolve(undefined);
    waiting++;
    const mine = before.then(work);
    last = mine.then(
      ({ next }) => next,
      () => undefined,
    );
    try {
      return (await mine).result;
    } finally {
      waiting--;
    }
  }
}
