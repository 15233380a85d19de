/** Joins, tempo, recipes under a name, and a history that every sound has for itself. */
export const shape = `
-- Bars and beats, as people set them.
ALTER TABLE sounds ADD COLUMN tempo TEXT;
-- The parts of a sound that was joined of others, and what its present source was joined of.
ALTER TABLE sounds ADD COLUMN "join" TEXT;
ALTER TABLE sounds ADD COLUMN joined TEXT;

-- A change of many sounds can be undone for one of them alone.
ALTER TABLE changedSounds ADD COLUMN undone INTEGER NOT NULL DEFAULT 0;
UPDATE changedSounds SET undone = (SELECT undone FROM changes WHERE id = changeId);
DROP INDEX changesOfProject;
ALTER TABLE changes DROP COLUMN undone;
CREATE INDEX changesOfProject ON changes(projectId, id);
CREATE INDEX changesOfSound ON changedSounds(soundId, changeId);

-- Recipes that were saved under a name, for every project. Their frames are of the rate.
CREATE TABLE recipes (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL UNIQUE COLLATE NOCASE,
  recipe TEXT NOT NULL,
  rateHz INTEGER NOT NULL,
  savedAt TEXT NOT NULL
) STRICT;
`;
