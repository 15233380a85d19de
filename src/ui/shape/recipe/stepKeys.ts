import { useRef } from 'react';
import type { Step } from '@/core/recipe/types';

interface Keyed {
  key: number;
  text: string;
}

/** Tells cards of steps apart: a step that is moved keeps its card, and so does one that is changed in its place. */
export function useStepKeys(steps: readonly Step[]): number[] {
  const before = useRef<Keyed[]>([]);
  before.current = keyed(steps, before.current);
  return before.current.map(({ key }) => key);
}

/** The same steps have the same keys; a changed one has the key of what stood there; new ones have new keys. */
export function keyed(steps: readonly Step[], before: readonly Keyed[]): Keyed[] {
  const texts = steps.map((step) => JSON.stringify(step));
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
