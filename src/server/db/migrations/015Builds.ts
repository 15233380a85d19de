/** Builds are kept for a while, with the names that their files had; and what is made only to be heard. */
export const builds = `
-- As it lay at its destination when it was built; null in builds of an older Bijou.
ALTER TABLE outputs ADD COLUMN path TEXT;

-- Files as they would be with other choices, made to be heard before these are taken.
CREATE TABLE tryouts (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  soundId INTEGER NOT NULL REFERENCES sounds(id) ON DELETE CASCADE,
  encodingId INTEGER NOT NULL REFERENCES encodings(id)
) STRICT;
CREATE INDEX tryoutsOfEncoding ON tryouts(encodingId);
CREATE INDEX tryoutsOfSound ON tryouts(soundId);
`;
