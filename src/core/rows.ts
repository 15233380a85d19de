/** Objects of one shape as a heading and values: names are written once. */
export interface Rows {
  names: string[];
  values: unknown[][];
}

/** Puts objects into rows. A name that only some have is `undefined`, in JSON null, in the others. */
export function toRows(items: readonly object[]): Rows {
  const names = [...new Set(items.flatMap((item) => Object.keys(item)))];
  return {
    names,
    values: items.map((item) => names.map((name) => (item as Record<string, unknown>)[name])),
  };
}

/** The objects that `toRows` was given. */
export function fromRows<T>({ names, values }: Rows): T[] {
  return values.map((row) => {
    const item: Record<string, unknown> = {};
    for (let i = 0; i < names.length; i++) item[names[i]!] = row[i];
    return item as T;
  });
}
