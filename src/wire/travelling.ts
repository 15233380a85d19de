import type { ListedFacts } from '@/core/measure/probe';
import { fromRows, toRows, type Rows } from '@/core/rows';
import type { Cell, ProjectNews, ProjectState, Sound } from './index';

/** What there are thousands of, as it travels: the names of its fields would be more than half. */
interface Lines {
  cells: Rows;
  sounds: Rows;
  /** One for each sound that has been read, in their order. */
  facts: Rows;
}

/** The state as text for the page: what there is one of on the first line, all else on the second. */
export function packState({ sounds, cells, ...rest }: ProjectState): string {
  return `${JSON.stringify(rest)}\n${JSON.stringify(packLines(sounds, cells))}`;
}

function packLines(sounds: readonly Sound[], cells: readonly Cell[]): Lines {
  return {
    cells: toRows(cells),
    sounds: toRows(sounds.map((sound) => ({ ...sound, facts: sound.facts !== null }))),
    facts: toRows(sounds.flatMap((sound) => sound.facts ?? [])),
  };
}

/** The latest, kept on the server, which draws the same state again and again; a browser needs it once. */
let latest: { text: string; state: ProjectState } | null = null;

/** What `packState` was given. The same text may give the same object: nothing may change it. */
export function unpackState(text: string): ProjectState {
  if (latest?.text === text) return latest.state;
  const end = text.indexOf('\n');
  const rest = JSON.parse(text.slice(0, end)) as Omit<ProjectState, 'sounds' | 'cells'>;
  const state = { ...rest, ...unpackLines(JSON.parse(text.slice(end)) as Lines) };
  if (typeof window === 'undefined') latest = { text, state };
  return state;
}

function unpackLines({ sounds, facts, cells }: Lines): Pick<ProjectState, 'sounds' | 'cells'> {
  const measured = fromRows<ListedFacts>(facts)[Symbol.iterator]();
  return {
    cells: fromRows<Cell>(cells),
    sounds: fromRows<Omit<Sound, 'facts'> & { facts: boolean }>(sounds).map((sound) => ({
      ...sound,
      facts: sound.facts ? (measured.next().value ?? null) : null,
    })),
  };
}

/** News as they travel that hold the next part of a state. */
export interface PackedNews extends Omit<ProjectNews, 'changed' | 'cells'> {
  lines: Lines;
}

export function packNews({ changed, cells, ...rest }: ProjectNews): PackedNews {
  return { ...rest, lines: packLines(changed, cells) };
}

export function unpackNews({ lines, ...rest }: PackedNews): ProjectNews {
  const { sounds: changed, cells } = unpackLines(lines);
  return { ...rest, changed, cells };
}
