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

/** The latest, kept on the server, which draws the same state again and again; a browser needs it once. */
let latest: { text: string; state: ProjectState } | null = null;

/** What `packState` was given. The same text may give the same object: nothing may change it. */
export function unpackState(text: string): ProjectState {
  if (latest?.text === text) return latest.state;
  const state = unpacked(text);
  if (typeof window === 'undefined') latest = { text, state };
  return state;
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
