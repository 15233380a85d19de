/** Marks the cells that `which` finds as out of date: by `depth` what has come of them, or all that is known of them. */
function outdating(name: string, event: string, which: string, depth: 1 | 2): string {
  return `CREATE TRIGGER ${name} AFTER ${event} BEGIN
  INSERT INTO staleCells (id, depth) SELECT id, ${depth} FROM (${which}) WHERE true
    ON CONFLICT (id) DO UPDATE SET depth = excluded.depth WHERE excluded.depth > depth;
END;`;
}

const OF_SOUND = 'SELECT id FROM assignments WHERE soundId = NEW.id AND sent = 1';
const ALL_OF_SOUND = 'SELECT id FROM assignments WHERE soundId = NEW.id';
const OF_BRIEF = 'SELECT id FROM cells WHERE projectId = NEW.projectId AND briefId = NEW.id';

/**
 * Sounds at destinations are rows: what each comes to stands there, with what that was worked out from. Triggers say
 * which of them are out of date; they are worked out anew before a change is over, or soon after it.
 */
export const cells = `
CREATE TABLE cells (
  -- Of the assignment.
  id INTEGER PRIMARY KEY REFERENCES assignments(id) ON DELETE CASCADE,
  projectId INTEGER NOT NULL,
  soundId INTEGER NOT NULL,
  briefId TEXT NOT NULL,
  -- The sound is there, has been read, and is sent there.
  isListed INTEGER NOT NULL CHECK (isListed IN (0, 1)),
  -- What the need was worked out from; NULL where that is not known any more.
  basis TEXT,
  -- What it needs, as far as its state hangs on that, as JSON.
  need TEXT NOT NULL DEFAULT '{}',
  -- How long its source is.
  seconds REAL NOT NULL DEFAULT 0,
  state TEXT NOT NULL,
  finished INTEGER NOT NULL DEFAULT 0,
  missing INTEGER NOT NULL DEFAULT 0,
  bytes INTEGER NOT NULL DEFAULT 0,
  clips INTEGER NOT NULL DEFAULT 0,
  rehearsed TEXT,
  revision INTEGER NOT NULL
) STRICT;
CREATE INDEX cellsOfProject ON cells(projectId, id) WHERE isListed = 1;
CREATE INDEX cellsByRevision ON cells(projectId, revision);
CREATE INDEX cellsOfBrief ON cells(projectId, briefId, id);
CREATE INDEX cellsOpen ON cells(projectId, briefId) WHERE state IN ('working', 'checking');

-- The files of a cell: what each is to be, and where it lies.
CREATE TABLE cellFiles (
  cellId INTEGER NOT NULL REFERENCES cells(id) ON DELETE CASCADE,
  fileId TEXT NOT NULL,
  projectId INTEGER NOT NULL,
  briefId TEXT NOT NULL,
  -- Of its plan; NULL where nobody can say how it is made.
  key TEXT,
  -- What its name is made of, as JSON; the name that it would have alone, and the one that it has, as disks tell names apart.
  naming TEXT NOT NULL,
  -- It hangs on how many go there before it.
  counted INTEGER NOT NULL DEFAULT 0,
  wanted TEXT NOT NULL DEFAULT '',
  given TEXT NOT NULL DEFAULT '',
  -- It passed over a name that belongs to another one.
  passed INTEGER NOT NULL DEFAULT 0,
  meets INTEGER NOT NULL DEFAULT 0,
  name TEXT NOT NULL DEFAULT '',
  path TEXT NOT NULL DEFAULT '',
  -- Everywhere where it lies, as JSON; NULL for its path alone.
  paths TEXT,
  -- What is finished for it and up to date, and what its brief says of that.
  sha256 TEXT,
  verdict TEXT CHECK (verdict IN ('accepted', 'undecided', 'refused')),
  clips INTEGER NOT NULL DEFAULT 0,
  bytes INTEGER NOT NULL DEFAULT 0,
  -- What manifests can say of it, as JSON.
  told TEXT,
  -- What makes files alike in size, and what this one came to a second.
  sizeKey TEXT,
  bytesPerSecond REAL,
  PRIMARY KEY (cellId, fileId)
) STRICT, WITHOUT ROWID;
CREATE INDEX cellFilesByWanted ON cellFiles(projectId, briefId, wanted);
-- Most have the name that they would have alone.
CREATE INDEX cellFilesByGiven ON cellFiles(projectId, briefId, given) WHERE given <> wanted;
CREATE INDEX cellFilesPassing ON cellFiles(projectId, briefId) WHERE passed = 1;
CREATE INDEX cellFilesCounted ON cellFiles(projectId, briefId) WHERE counted = 1;
CREATE INDEX cellFilesBySize ON cellFiles(projectId, sizeKey) WHERE bytesPerSecond IS NOT NULL;

-- 1: what has come of it is other than written; 2: anything about it may be.
CREATE TABLE staleCells (
  id INTEGER PRIMARY KEY,
  depth INTEGER NOT NULL,
  -- Its row says so: it is worked out soon, and not within the change that made it stale.
  isSaid INTEGER NOT NULL DEFAULT 0
) STRICT;
CREATE INDEX staleUnsaid ON staleCells(id, depth) WHERE isSaid = 0;
-- Destinations whose names are to be given anew, all of them.
CREATE TABLE staleNames (projectId INTEGER NOT NULL, briefId TEXT NOT NULL, PRIMARY KEY (projectId, briefId))
  STRICT, WITHOUT ROWID;
-- What rows were worked out by: another one makes all of them stale.
CREATE TABLE judges (version TEXT NOT NULL) STRICT;

DROP TRIGGER assigned;
DROP TRIGGER assignedOtherwise;
DROP TRIGGER outputQueued;
DROP TRIGGER encodingChanged;
DROP TRIGGER soundRehearsed;
${outdating('cellSent', 'INSERT ON assignments', 'SELECT NEW.id AS id', 2)}
${outdating('cellSentOtherwise', 'UPDATE ON assignments', 'SELECT NEW.id AS id', 2)}
${outdating(
  'cellOfSound',
  `UPDATE OF name, "group", language, recipe, sourceSha256, state, error, outcome ON sounds`,
  OF_SOUND,
  2,
)}
${outdating('cellOfRemoved', 'UPDATE OF removedAt ON sounds', ALL_OF_SOUND, 2)}
${outdating(
  'cellOfSource',
  'UPDATE OF facts, warnings, bytes ON sources',
  'SELECT assignments.id FROM assignments JOIN sounds ON sounds.id = soundId WHERE sourceSha256 = NEW.sha256 AND sent = 1',
  2,
)}
${outdating('cellBuilt', 'INSERT ON outputs', 'SELECT NEW.assignmentId AS id', 1)}
${outdating(
  'cellUnbuilt',
  `DELETE ON outputs WHEN NOT EXISTS (SELECT 1 FROM outputs AS newer
    WHERE newer.assignmentId = OLD.assignmentId AND newer.fileId = OLD.fileId AND newer.id > OLD.id)`,
  'SELECT OLD.assignmentId AS id',
  1,
)}
${outdating(
  'cellOfEncoding',
  'UPDATE OF state, error, sha256, verification ON encodings',
  'SELECT DISTINCT assignmentId AS id FROM outputs WHERE encodingId = NEW.id',
  1,
)}
${outdating('cellRehearsed', 'INSERT ON rehearsedSounds', 'SELECT NEW.assignmentId AS id', 1)}
${outdating('cellOfBrief', 'UPDATE OF brief ON ownBriefs', OF_BRIEF, 2)}
${outdating('cellOfNewBrief', 'INSERT ON ownBriefs', OF_BRIEF, 2)}
${outdating(
  'cellOfLostBrief',
  'DELETE ON ownBriefs',
  'SELECT id FROM cells WHERE projectId = OLD.projectId AND briefId = OLD.id',
  2,
)}

-- Another brief may want other names of the same sounds.
CREATE TRIGGER namesOfBrief AFTER UPDATE OF brief ON ownBriefs BEGIN
  INSERT INTO staleNames SELECT NEW.projectId, NEW.id WHERE true ON CONFLICT DO NOTHING;
END;
CREATE TRIGGER namesOfNewBrief AFTER INSERT ON ownBriefs BEGIN
  INSERT INTO staleNames SELECT NEW.projectId, NEW.id WHERE true ON CONFLICT DO NOTHING;
END;

INSERT INTO cells (id, projectId, soundId, briefId, isListed, state, revision)
  SELECT assignments.id, projectId, soundId, briefId, 1, 'checking', sounds.revision
  FROM assignments JOIN sounds ON sounds.id = soundId JOIN sources ON sources.sha256 = sourceSha256
  WHERE sent = 1 AND removedAt IS NULL AND facts IS NOT NULL;
INSERT INTO staleCells (id, depth, isSaid) SELECT id, 2, 1 FROM cells;

-- The figures of a trial without curves and bands, which are most of them and which few look at.
ALTER TABLE trials ADD COLUMN listed TEXT;
UPDATE trials SET listed = json_remove(figures, '$.fidelity.bands', '$.fidelity.curve') WHERE figures IS NOT NULL;
-- What a trial was planned from; NULL where nobody wrote that down.
ALTER TABLE trials ADD COLUMN basis TEXT;
-- Counted with every piece of news, without a look at figures.
CREATE INDEX trialsMeasured ON trials(comparisonId) WHERE figures IS NOT NULL;
CREATE INDEX trialsFailed ON trials(comparisonId) WHERE error IS NOT NULL;
CREATE INDEX trialsTimed ON trials(comparisonId) WHERE work IS NOT NULL;
CREATE INDEX trialsOfCandidate ON trials(soundId, candidate);
-- What a finished file comes to, apart from what was measured on it.
ALTER TABLE encodings ADD COLUMN bytes INTEGER;
UPDATE encodings SET bytes = verification ->> '$.facts.bytes' WHERE verification IS NOT NULL;
-- What came of a build, as JSON; NULL until somebody asks, and whenever something of it has changed.
ALTER TABLE builds ADD COLUMN sums TEXT;
CREATE TRIGGER buildGrown AFTER INSERT ON outputs BEGIN
  UPDATE builds SET sums = NULL WHERE id = NEW.buildId AND sums IS NOT NULL;
END;
CREATE TRIGGER buildShrunk AFTER DELETE ON outputs BEGIN
  UPDATE builds SET sums = NULL WHERE id = OLD.buildId AND sums IS NOT NULL;
END;
CREATE TRIGGER buildGoesOn AFTER UPDATE OF state, bytes ON encodings BEGIN
  UPDATE builds SET sums = NULL
    WHERE id IN (SELECT buildId FROM outputs WHERE encodingId = NEW.id) AND sums IS NOT NULL;
END;
-- How many files a pack has, and what they come to.
ALTER TABLE packs ADD COLUMN files INTEGER NOT NULL DEFAULT 0;
ALTER TABLE packs ADD COLUMN bytes INTEGER NOT NULL DEFAULT 0;
UPDATE packs SET (files, bytes) =
  (SELECT count(*), coalesce(sum(bytes), 0) FROM packedFiles WHERE packId = packs.id);
-- A copy that is still being made is in no list.
ALTER TABLE projects ADD COLUMN isPartial INTEGER NOT NULL DEFAULT 0;
-- Where a job comes among others, and what it was begun for: its result counts as long as that is the same.
ALTER TABLE jobs ADD COLUMN rank INTEGER NOT NULL DEFAULT 1;
ALTER TABLE jobs ADD COLUMN basis TEXT;
UPDATE jobs SET rank = CASE kind WHEN 'outcome' THEN 4 WHEN 'trial' THEN 2 ELSE 1 END;
DROP INDEX jobsByState;
CREATE INDEX jobsByState ON jobs(state, rank, id);
-- How much of each kind is open, and what is running.
CREATE INDEX jobsOfProject ON jobs(projectId, kind, state);
-- That a sound goes to a destination once says the same.
DROP INDEX assignmentsOfSound;
CREATE INDEX soundsJoined ON sounds(projectId) WHERE "join" IS NOT NULL AND removedAt IS NULL;
`;
