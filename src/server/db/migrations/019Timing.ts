/** Whether the files of a run are still to be timed: a crash between the last trial and its timing forgot that. */
export const timing = `
ALTER TABLE comparisons ADD COLUMN isTimingDue INTEGER NOT NULL DEFAULT 0;
`;
