/** Some conversions are sets of files that belong to one loop. */
export const handovers = `
-- Which files of the loop they are, and how they follow one another; null for all other conversions.
ALTER TABLE oneOffs ADD COLUMN handover TEXT;
`;
