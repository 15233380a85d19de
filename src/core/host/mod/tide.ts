/** Between two turns of the tide, in seconds of the island: a quarter of a lunar day. */
export const TURN_SECONDS = (24 * 3_600 + 50 * 60) / 4;
/** So many seconds of the island pass in one of ours. */
export const ISLAND_PACE = 60;

/** A turn of the tide. */
export interface Turn {
  /** Counts from 0; even ones are high water. */
  number: number;
  water: 'high' | 'low';
  /** In seconds of the island since it was loaded. */
  at: number;
}

/** The next turn behind a time of the island. */
export function turnAfter(islandSeconds: number): Turn {
  const number = Math.floor(islandSeconds / TURN_SECONDS) + 1;
  return turn(number);
}

/** The turn with that number; that with 0 was when the island was loaded. */
export function turn(number: number): Turn {
  return { number, water: number % 2 === 0 ? 'high' : 'low', at: number * TURN_SECONDS };
}

/** How high the water stands at a time of the island: −1 low … 1 high. */
export function waterLevel(islandSeconds: number): number {
  return Math.cos((Math.PI * islandSeconds) / TURN_SECONDS);
}

/** A time of the island as its clock shows it: it was noon when the island was loaded. */
export function clockText(islandSeconds: number): string {
  const minutes = Math.floor(islandSeconds / 60) + 12 * 60;
  const two = (value: number) => String(value).padStart(2, '0');
  return `${two(Math.floor(minutes / 60) % 24)}:${two(minutes % 60)}`;
}
