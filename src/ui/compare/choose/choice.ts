import { create } from 'zustand';
import { candidateKey, type NamedCandidate } from '@/core/compare/candidates/candidate';
import { useSets } from '../api';

/** What is to be tried on what, before it is begun. */
interface Chosen {
  soundIds: readonly number[];
  /** Why some of them were picked. */
  reasons: Readonly<Record<number, string>>;
  /** null until somebody has chosen: the first of the ready sets. */
  candidates: readonly NamedCandidate[] | null;
}

export const useChosen = create<Chosen>(() => ({
  soundIds: [],
  reasons: {},
  candidates: null,
}));

export function chooseSounds(
  soundIds: readonly number[],
  reasons: Readonly<Record<number, string>> = {},
): void {
  useChosen.setState({ soundIds: [...new Set(soundIds)], reasons });
}

export function toggleSound(id: number): void {
  const { soundIds, reasons } = useChosen.getState();
  const without = soundIds.filter((one) => one !== id);
  chooseSounds(without.length < soundIds.length ? without : [...soundIds, id], reasons);
}

/** Candidates in their order, each once. */
export function chooseCandidates(candidates: readonly NamedCandidate[]): void {
  const byKey = new Map(candidates.map((one) => [candidateKey(one), one]));
  useChosen.setState({ candidates: [...byKey.values()] });
}

/** What is chosen, or stands there to begin with. */
export function useCandidates(): readonly NamedCandidate[] {
  const candidates = useChosen((state) => state.candidates);
  const { ready } = useSets();
  return candidates ?? ready[0]?.candidates ?? [];
}
