/** Does things one after the other. Each is told what the one before it left, if it waited for that. */
export function queue<Left>() {
  let last: Promise<Left | undefined> = Promise.resolve(undefined);
  let waiting = 0;
  return async function take<Result>(
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
  };
}
