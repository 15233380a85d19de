/** Builds are kept for a while, with the names that their files had. */
export const builds = `
-- As it lay at its destination when it was built; null in builds of an older Bijou.
ALTER TABLE outputs ADD COLUMN path TEXT;
`;
