/** One part of a whole. */
export interface Share<T> {
  item: T;
  bytes: number;
  /** 0 … 1 of the whole. */
  share: number;
  /** Where it begins when the parts lie in a row, 0 … 1. */
  from: number;
}

/** How a whole divides among items, biggest first. Nothing divides into nothing. */
export function sharesOf<T>(items: readonly T[], bytesOf: (item: T) => number): Share<T>[] {
  const sized = items
    .map((item) => ({ item, bytes: bytesOf(item) }))
    .sort((a, b) => b.bytes - a.bytes);
  const whole = sized.reduce((sum, { bytes }) => sum + bytes, 0);
  if (whole === 0) return [];
  let from = 0;
  return sized.map(({ item, bytes }) => {
    const part = { item, bytes, share: bytes / whole, from };
    from += part.share;
    return part;
  });
}

/** How few of the biggest make at least `share` of the whole. */
export function fewestFor(shares: readonly Share<unknown>[], share: number): number {
  const at = shares.findIndex((part) => part.from + part.share >= share - 1e-9);
  return at < 0 ? shares.length : at + 1;
}
