const SOUND_OF_OUTPUT = 'id = (SELECT soundId FROM assignments WHERE id = NEW.assignmentId)';

/** A trigger that gives the next revision to the sounds that `which` finds. */
function renewing(name: string, event: string, which: string): string {
  return `CREATE TRIGGER ${name} AFTER ${event} BEGIN
  UPDATE revisions SET latest = latest + 1;
  UPDATE sounds SET revision = (SELECT latest FROM revisions) WHERE ${which};
END;`;
}

/** Order among sounds, a history of every change, and a record of what was brought in. */
export const collect = `
ALTER TABLE sounds ADD COLUMN "group" TEXT NOT NULL DEFAULT '';
ALTER TABLE sounds ADD COLUMN labels TEXT NOT NULL DEFAULT '[]';
ALTER TABLE sounds ADD COLUMN note TEXT NOT NULL DEFAULT '';
-- Folder or archive that the file stood in.
ALTER TABLE sounds ADD COLUMN folder TEXT NOT NULL DEFAULT '';
-- Worries that somebody has looked at and let be.
ALTER TABLE sounds ADD COLUMN setAside TEXT NOT NULL DEFAULT '[]';
-- A changed file that came in under a known name waits here until somebody decides.
ALTER TABLE sounds ADD COLUMN replaces INTEGER REFERENCES sounds(id);
-- Counts up with every change, so that a screen can ask for what is new to it.
ALTER TABLE sounds ADD COLUMN revision INTEGER NOT NULL DEFAULT 0;

-- Large parts of the facts, which lists do without; and the picture that lists show.
ALTER TABLE sources ADD COLUMN spectrum TEXT;
ALTER TABLE sources ADD COLUMN thumbnail TEXT;
UPDATE sources SET spectrum = json_extract(facts, '$.spectrum'), facts = json_remove(facts, '$.spectrum')
  WHERE facts IS NOT NULL;

CREATE TABLE revisions (latest INTEGER NOT NULL) STRICT;
INSERT INTO revisions VALUES (0);
CREATE INDEX soundsByRevision ON sounds(projectId, revision);
CREATE INDEX soundsBySource ON sounds(sourceSha256);
${renewing('soundAdded', 'INSERT ON sounds', 'id = NEW.id')}
${renewing('soundChanged', 'UPDATE ON sounds WHEN NEW.revision = OLD.revision', 'id = NEW.id')}
${renewing('sourceRead', 'UPDATE ON sources', 'sourceSha256 = NEW.sha256')}
-- What hangs on a sound counts as a change of it.
${renewing('assigned', 'INSERT ON assignments', 'id = NEW.soundId')}
${renewing('assignedOtherwise', 'UPDATE ON assignments', 'id = NEW.soundId')}
${renewing('unassigned', 'DELETE ON assignments', 'id = OLD.soundId')}
${renewing('outputQueued', 'INSERT ON outputs', SOUND_OF_OUTPUT)}
${renewing('outputChanged', 'UPDATE ON outputs', SOUND_OF_OUTPUT)}

-- How a project's table is laid out.
ALTER TABLE projects ADD COLUMN tableLayout TEXT NOT NULL DEFAULT '{}';

-- What people did to sounds, each with what was before and after it.
CREATE TABLE changes (
  id INTEGER PRIMARY KEY,
  projectId INTEGER NOT NULL REFERENCES projects(id),
  title TEXT NOT NULL,
  madeAt TEXT NOT NULL,
  undone INTEGER NOT NULL DEFAULT 0
) STRICT;
CREATE INDEX changesOfProject ON changes(projectId, undone, id);
CREATE TABLE changedSounds (
  changeId INTEGER NOT NULL REFERENCES changes(id) ON DELETE CASCADE,
  soundId INTEGER NOT NULL REFERENCES sounds(id) ON DELETE CASCADE,
  before TEXT NOT NULL,
  after TEXT NOT NULL,
  PRIMARY KEY (changeId, soundId)
) STRICT;

-- One act of bringing files in, and each of its files.
CREATE TABLE intakes (
  id INTEGER PRIMARY KEY,
  projectId INTEGER NOT NULL REFERENCES projects(id),
  startedAt TEXT NOT NULL,
  dismissedAt TEXT
) STRICT;
CREATE TABLE arrivals (
  id INTEGER PRIMARY KEY,
  intakeId INTEGER NOT NULL REFERENCES intakes(id) ON DELETE CASCADE,
  path TEXT NOT NULL,
  bytes INTEGER NOT NULL,
  state TEXT NOT NULL CHECK (state IN ('waiting', 'unpacking', 'offered', 'unpacked', 'here',
    'already', 'replaced', 'left-out', 'failed', 'cancelled')),
  reason TEXT,
  error TEXT,
  soundId INTEGER REFERENCES sounds(id) ON DELETE SET NULL,
  -- A zip archive that waits to be unpacked, and how many archives it stands in.
  archiveSha256 TEXT,
  depth INTEGER NOT NULL DEFAULT 0,
  -- The archive that it was unpacked from.
  archiveId INTEGER REFERENCES arrivals(id) ON DELETE CASCADE
) STRICT;
CREATE INDEX arrivalsOfIntake ON arrivals(intakeId, state);
CREATE INDEX arrivalsOfSound ON arrivals(soundId);
CREATE INDEX arrivalsOfArchive ON arrivals(archiveId);

-- Files that were refused before there were intakes keep their mention.
INSERT INTO intakes (projectId, startedAt)
  SELECT projectId, min(addedAt) FROM sounds WHERE state = 'refused' AND removedAt IS NULL GROUP BY projectId;
INSERT INTO arrivals (intakeId, path, bytes, state, soundId)
  SELECT intakes.id, sounds.fileName, sources.bytes, 'here', sounds.id
  FROM sounds JOIN intakes USING (projectId) JOIN sources ON sources.sha256 = sounds.sourceSha256
  WHERE sounds.state = 'refused' AND sounds.removedAt IS NULL;
`;
