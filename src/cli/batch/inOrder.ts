/**
 * Works on many things at a time and hands the results out in the order of the things. No more than `width` are
 * begun and not yet handed out, so that memory does not grow with their number. `work` must not fail.
 */
export async function* inOrder<Thing, Result>(
  things: AsyncIterable<Thing>,
  width: number,
  work: (thing: Thing) => Promise<Result>,
): AsyncGenerator<Result> {
  const begun: Promise<Result>[] = [];
  for await (const thing of things) {
    begun.push(work(thing));
    if (begun.length >= width) yield await begun.shift()!;
  }
  while (begun.length > 0) yield await begun.shift()!;
}
