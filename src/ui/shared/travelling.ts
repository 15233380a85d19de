import type { ListedFacts } from '@/core/measure/probe';
import { fromRows, toRows, type Rows } from '@/core/rows';
import type { Cell, ProjectState, Sound } from '@/wire';

/** A state as it travels: of thousands of sounds, the names of their fields are more than half. */
interface Travelling extends Omit<ProjectState, 'sounds' | 'cells'> {
  cells: Rows;
  sounds: Rows;
  /** One for each sound that has been read, in their order. */
  facts: Rows;
}

/** The state as text for the page. */
export function packState(state: ProjectState): string {
  const facts = state.sounds.flatMap((sound) => sound.facts ?? []);
  const travelling: Travelling = {
    ...state,
    cells: toRows(state.cells),
    sounds: toRows(state.sounds.map((sound) => ({ ...sound, facts: sound.facts !== null }))),
    facts: toRows(facts),
  };
  return JSON.stringify(travelling);
}

export function unpackState(text: string): ProjectState {
  const { sounds, facts, cells, ...rest } = JSON.parse(text) as Travelling;
  const measured = fromRows<ListedFacts>(facts)[Symbol.iterator]();
  return {
    ...rest,
    cells: fromRows<Cell>(cells),
    sounds: fromRows<Omit<Sound, 'facts'> & { facts: boolean }>(sounds).map((sound) => ({
      ...sound,
      facts: sound.facts ? (measured.next().value ?? null) : null,
    })),
  };
}
