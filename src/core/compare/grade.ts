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
  /** So much when all of the loudness is gone, in dB. */
  missingDb: 14,
  /** The ratio that is taken at least when all of the loudness is gone, in dB; a tenth of it is 40 dB less. */
  goneDb: -5,
  perTenthDb: 40,
  /** Where the grade is −2, in dB of both together. */
  middleDb: 4,
  /** How slowly it falls: so far from the middle, seven tenths of the way to an end are gone. */
  slopeDb: 6,
};

/** What grades come about of; `missing` is 0 where nobody has looked. */
export interface GradedFigures {
  nmrDb: number | null;
  disturbed: number;
  missing?: number;
}

/**
 * From 0 (no difference) to −4 (very annoying), with three decimals: falls with the noise-to-mask ratio, with the
 * share of frames in which noise is heard and with the loudness that is gone, and comes close to both ends slowly: what
 * is better stays better.
 */
export function gradeOf({ nmrDb, disturbed, missing = 0 }: GradedFigures): number {
  if (nmrDb === null && missing === 0) return 0;
  const { disturbedDb, missingDb, goneDb, perTenthDb, middleDb, slopeDb } = gradeMapping;
  const noiseDb = Math.max(nmrDb ?? -Infinity, goneDb + perTenthDb * Math.log10(missing));
  const beyond = (noiseDb + disturbedDb * disturbed + missingDb * missing - middleDb) / slopeDb;
  const grade = -2 * (1 + beyond / Math.sqrt(1 + beyond * beyond));
  return Math.round(grade * 1000) / 1000 || 0;
}

/** A sound is graded better than its worst half second by no more than this. */
export const MOST_ABOVE_WORST = 1;

export function wordsOfGrade(grade: number): string {
  return gradeWords.find(({ from }) => grade >= from)?.words ?? gradeWords.at(-1)!.words;
}
