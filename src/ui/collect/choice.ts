import { create } from 'zustand';

interface Choice {
  ids: ReadonlySet<number>;
  /** Where a range begins, and the sound that was chosen last. */
  anchor: number | null;
  lead: number | null;
}

/** The sounds that are chosen in the list. */
export const useChoice = create<Choice>(() => ({ ids: new Set(), anchor: null, lead: null }));

/** Chooses these sounds and no others. */
export function chooseOnly(ids: Iterable<number>): void {
  const chosen = new Set(ids);
  const first = chosen.values().next().value ?? null;
  useChoice.setState({ ids: chosen, anchor: first, lead: first });
}

/** Chooses one more sound, or one fewer. */
export function toggleChoice(id: number): void {
  useChoice.setState(({ ids }) => {
    const chosen = new Set(ids);
    if (!chosen.delete(id)) chosen.add(id);
    return { ids: chosen, anchor: id, lead: id };
  });
}

/** Chooses everything from where the choice began to `id`, as it is listed. */
export function chooseTo(id: number, listed: readonly number[]): void {
  const { anchor } = useChoice.getState();
  const from = listed.indexOf(anchor ?? id);
  const to = listed.indexOf(id);
  if (from < 0 || to < 0) {
    chooseOnly([id]);
    return;
  }
  const range = listed.slice(Math.min(from, to), Math.max(from, to) + 1);
  useChoice.setState({ ids: new Set(range), lead: id });
}

/** Chooses what is listed and was not chosen. */
export function invertChoice(listed: readonly number[]): void {
  const { ids } = useChoice.getState();
  chooseOnly(listed.filter((id) => !ids.has(id)));
}
