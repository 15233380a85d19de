import type { ListedFacts } from '@/core/measure/probe';
import { fromRows, toRows, type Rows } from '@/core/rows';
import type { Cell, ProjectState, Sound } from '@/wire';

/** What there are thousands of, as it travels: the names of its fields would be more than half. */
interface Lines {
  cells: Rows;
  sounds: Rows;
  /** One for each sound that has been read, in their order. */
  facts: Rows;
}

/** The state as text for the page: what there is one of on the first line, all else on the second. */
export function packState({ sounds, cells, ...rest }: ProjectState): string {
  return `${JSON.stringify(rest)}\n${packedLines(sounds, cells)}`;
}

/** The latest, kept: packing ten thousand sounds takes longer than all else about a page. */
let packed: (Pick<ProjectState, 'sounds' | 'cells'> & { text: string }) | null = null;

function packedLines(sounds: ProjectState['sounds'], cells: ProjectState['cells']): string {
  if (packed?.sounds !== sounds || packed.cells !== cells) {
    const lines: Lines = {
      cells: toRows(cells),
      sounds: toRows(sounds.map((sound) => ({ ...sound, facts: sound.facts !== null }))),
      facts: toRows(sounds.flatMap((sound) => sound.facts ?? [])),
    };
    packed = { sounds, cells, text: JSON.stringify(lines) };
  }
  return packed.text;
}

/** The latest, kept: the server draws the same state again and again, and so does a browser that begins anew. */
let latest: { text: string; state: ProjectState } | null = null;

/** What `packState` was given. The same text gives the same object: nothing may change it. */
export function unpackState(text: string): ProjectState {
  if (latest?.text !== text) latest = { text, state: unpacked(text) };
  return latest.state;
}

function unpacked(text: string): ProjectState {
  const end = text.indexOf('\n');
  const rest = JSON.parse(text.slice(0, end)) as Omit<ProjectState, 'sounds' | 'cells'>;
  const { sounds, facts, cells } = JSON.parse(text.slice(end)) as Lines;
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
