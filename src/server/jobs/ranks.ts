/**
 * In which order jobs are taken. asked: somebody waits for this one thing · usual · measured: of a comparison, what was
 * made for it is there · compared: files of a comparison · quiet: nobody waits for it. What comes before `measured` is
 * begun beside what comes behind it, and does not wait for that.
 */
export const RANK = { asked: 0, usual: 1, measured: 2, compared: 3, quiet: 4 } as const;
export type Rank = (typeof RANK)[keyof typeof RANK];

/** What somebody waits for, and is not held up by what comes behind it. */
export const isPressing = (rank: Rank) => rank < RANK.measured;
