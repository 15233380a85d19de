import { useRef } from 'react';

interface Keyed {
  key: number;
  text: string;
}

/** Tells lines of a list apart: one that is moved stays the same line, and so does one that is changed in its place. */
export function useLineKeys(values: readonly unknown[]): number[] {
  const before = useRef<Keyed[]>([]);
  before.current = keyed(values, before.current);
  return before.current.map(({ key }) => key);
}

/** The same values have the same keys; a changed one has the key of what stood there; new ones have new keys. */
export function keyed(values: readonly unknown[], before: readonly Keyed[]): Keyed[] {
  const texts = values.map((value) => JSON.stringify(value));
  const left = new Set(before);
  const found = texts.map((text, i) => {
    const isSame = (old: Keyed | undefined) =>
      old !== undefined && left.has(old) && old.text === text;
    const same = isSame(before[i]) ? before[i] : before.find(isSame);
    if (same) left.delete(same);
    return same;
  });
  let next = Math.max(0, ...before.map(({ key }) => key)) + 1;
  return texts.map((text, i) => {
    if (found[i]) return found[i];
    const stood = before[i];
    const key = stood && left.delete(stood) ? stood.key : next++;
    return { key, text };
  });
}
