/**
 * Objects of one shape, column by column: names are written once, and so is every value that comes again and
 * again. Of thousands of objects, that is most of what there is to write.
 */
export interface Rows {
  count: number;
  columns: Record<string, Column>;
}

/** Values in the order of the objects; or those there are, and which of them each object has. */
type Column = unknown[] | { of: unknown[]; at: number[] };

/** Puts objects into columns. A name that only some have is `null` in the others. */
export function toRows(items: readonly object[]): Rows {
  const names = new Set<string>();
  for (const item of items) for (const name in item) names.add(name);
  const column = (name: string) =>
    toColumn(items.map((item) => (item as Record<string, unknown>)[name] ?? null));
  return {
    count: items.length,
    columns: Object.fromEntries([...names].map((name) => [name, column(name)])),
  };
}

function toColumn(values: unknown[]): Column {
  // What is no object tells itself apart from others; writing it down to compare takes far longer.
  const plain = new Map<unknown, number>();
  const written = new Map<string, number>();
  const of: unknown[] = [];
  const at: number[] = [];
  for (const value of values) {
    const text = typeof value === 'object' ? JSON.stringify(value) : null;
    const known = text === null ? plain.get(value) : written.get(text);
    const place = known ?? of.push(value) - 1;
    // Where most are unlike, saying which of them it is would be longer.
    if (of.length > values.length / 2) return values;
    if (text === null) plain.set(value, place);
    else written.set(text, place);
    at.push(place);
  }
  // All alike: that it is always the first goes without saying.
  return { of, at: of.length === 1 ? [] : at };
}

/** The objects that `toRows` was given. Values that are alike may be the same object: nothing may change them. */
export function fromRows<T>({ count, columns }: Rows): T[] {
  const read = Object.entries(columns).map(
    ([name, column]) =>
      [
        name,
        Array.isArray(column)
          ? (i: number) => column[i]
          : (i: number) => column.of[column.at[i] ?? 0],
      ] as const,
  );
  return Array.from({ length: count }, (_, i) => {
    const item: Record<string, unknown> = {};
    for (const [name, value] of read) item[name] = value(i);
    return item as T;
  });
}
