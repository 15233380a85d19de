import type { EarFigures } from './ear/meter';

/** The words of the five-grade impairment scale (ITU-R BS.1284-2), by how many grades something is below the source. */
export const gradeWords: readonly { from: number; words: string }[] = [
  { from: -0.5, words: 'imperceptible' },
  { from: -1.5, words: 'perceptible, but not annoying' },
  { from: -2.5, words: 'slightly annoying' },
  { from: -3.5, words: 'annoying' },
  { from: -4, words: 'very annoying' },
];

/** A mapping of our own, and no standard's: what the two figures of the ear come to in grades. */
export const gradeMapping = {
  /** So much is added to the noise-to-mask ratio when every frame is disturbed, in dB. */
  disturbedDb: 6,
  /** Where the grade is −2, in dB of both together. */
  middleDb: 4,
  /** How slowly it falls: so far from the middle, seven tenths of the way to an end are gone. */
  slopeDb: 6,
};

/**
 * From 0 (no difference) to −4 (very annoying), with three decimals: falls with the noise-to-mask ratio and with the
 * share of frames in which noise is heard, and comes close to both ends slowly: what is better stays better.
 */
export function gradeOf({ nmrDb, disturbed }: Pick<EarFigures, 'nmrDb' | 'disturbed'>): number {
  if (nmrDb === null) return 0;
  const { disturbedDb, middleDb, slopeDb } = gradeMapping;
  const beyond = (nmrDb + disturbedDb * disturbed - middleDb) / slopeDb;
  const grade = -2 * (1 + beyond / Math.sqrt(1 + beyond * beyond));
  return Math.round(grade * 1000) / 1000 || 0;
}

export function wordsOfGrade(grade: number): string {
  return gradeWords.find(({ from }) => grade >= from)?.words ?? gradeWords.at(-1)!.words;
}
