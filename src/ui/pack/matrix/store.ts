import { create } from 'zustand';
import type { CellState } from '@/wire';

/** A place in the matrix: a sound at a brief, whether it is sent there or not. */
export interface Place {
  soundId: number;
  briefId: string;
}

interface MatrixState {
  /** Where the keys work. */
  at: Place | null;
  /** Where marking with Shift began. */
  from: Place | null;
  /** Marked places, by `placeName`. */
  marked: ReadonlySet<string>;
  /** The cell that is shown beside the matrix. */
  isOpen: boolean;
  search: string;
  /** Only sounds with a cell in one of these states; none for all. */
  states: ReadonlySet<CellState>;
  /** Groups that are folded. */
  folded: ReadonlySet<string>;
  /** Destinations to which nothing goes are shown as well. */
  isWide: boolean;
}

/** Where one was in the matrix stays while one is elsewhere. */
export const useMatrix = create<MatrixState>(() => ({
  at: null,
  from: null,
  marked: new Set<string>(),
  isOpen: false,
  search: '',
  states: new Set<CellState>(),
  folded: new Set<string>(),
  isWide: false,
}));

const { setState: set, getState: get } = useMatrix;

export function placeName({ soundId, briefId }: Place): string {
  return `${soundId} ${briefId}`;
}

export function placeOf(name: string): Place {
  const at = name.indexOf(' ');
  return { soundId: Number(name.slice(0, at)), briefId: name.slice(at + 1) };
}

/** Goes to a place; what was marked is marked no more. */
export function goTo(at: Place): void {
  set({ at, from: at, marked: new Set() });
}

/** Marks everything between where marking began and a place. */
export function markTo(at: Place, between: (from: Place, to: Place) => readonly Place[]): void {
  const from = get().from ?? at;
  set({ at, from, marked: new Set(between(from, at).map(placeName)) });
}

/** Marks these on top of what is marked, or no more if all of them are. */
export function toggleMarks(places: readonly Place[]): void {
  const names = places.map(placeName);
  const marked = new Set(get().marked);
  const isAll = names.every((name) => marked.has(name));
  for (const name of names) {
    if (isAll) marked.delete(name);
    else marked.add(name);
  }
  set({ marked, at: places[0] ?? get().at, from: places[0] ?? get().from });
}

export function markAll(places: readonly Place[]): void {
  set({ marked: new Set(places.map(placeName)) });
}

export function unmark(): void {
  set({ marked: new Set() });
}

export function openCell(isOpen: boolean): void {
  set({ isOpen });
}

export function toggleState(state: CellState): void {
  const states = new Set(get().states);
  if (!states.delete(state)) states.add(state);
  set({ states });
}

export function toggleFold(group: string): void {
  const folded = new Set(get().folded);
  if (!folded.delete(group)) folded.add(group);
  set({ folded });
}
