/** How a game takes a sound in: all of it at once, or piece by piece while it plays. */
export const ways = { whole: 'all at once', piecewise: 'piece by piece' } as const;
export type Way = keyof typeof ways;

/** What a game plays by which id, as people plan it: variants are sounds of the project. */
export interface Call<Variant = PlannedVariant> {
  id: string;
  /** One of them is picked by its odds each time. */
  variants: Variant[];
  levelDb: number;
  /** Lowest and highest factor of speed and pitch; picked anew each time. */
  pitch: [number, number];
  read: Way;
}

interface PlannedVariant {
  soundId: number;
  odds: number;
}

/** A file in the place of a sound, as the index has it. */
export interface PathVariant {
  path: string;
  odds: number;
}

export const MOST_CALLS = 20_000;
export const MOST_VARIANTS = 1_000;
export const levels = { from: -60, to: 12 } as const;
export const pitches = { from: 0.25, to: 4 } as const;
export const MOST_ODDS = 1_000;

/** Longer sounds are read piece by piece, unless somebody says otherwise. */
const PIECEWISE_SECONDS = 10;

/** A call as it is before anybody has changed anything about it. */
export function plainCall<V>(id: string, variants: V[], seconds: number): Call<V> {
  const read = seconds > PIECEWISE_SECONDS ? 'piecewise' : 'whole';
  return { id, variants, levelDb: 0, pitch: [1, 1], read };
}

/** The index of calls as its file holds it. */
export function callsText(calls: readonly Call<PathVariant>[]): string {
  const ordered = calls.map(({ id, variants, levelDb, pitch, read }) => ({
    id,
    variants: variants.map(({ path, odds }) => ({ path, odds })),
    levelDb,
    pitch,
    read,
  }));
  return `${JSON.stringify({ calls: ordered }, null, 2)}\n`;
}
