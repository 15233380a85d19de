/** Finished files know what they were made of and nothing of who wants them; outputs have no names of their own. */
export const apart = `
-- Files by everything that decides their bytes: to be made, being made, made.
CREATE TABLE madeFiles (
  -- Never given again: jobs name it.
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  -- What it is made of and how; null for those of an older Bijou, until they are made again.
  plan TEXT,
  state TEXT NOT NULL CHECK (state IN ('queued', 'running', 'done', 'failed', 'cancelled')),
  error TEXT,
  -- What came of it.
  sha256 TEXT,
  verification TEXT,
  warnings TEXT NOT NULL DEFAULT '[]',
  -- How it is read when it has no header.
  raw TEXT,
  CHECK (state <> 'done' OR (sha256 IS NOT NULL AND verification IS NOT NULL))
) STRICT;
INSERT INTO madeFiles (key, state, sha256, verification, warnings, raw)
  SELECT outputKey, 'done', sha256, verification, warnings, raw FROM encodings;
-- What was still to be made is built again when somebody presses the button.
INSERT OR IGNORE INTO madeFiles (key, state, error)
  SELECT outputKey, CASE state WHEN 'failed' THEN 'failed' ELSE 'cancelled' END, error FROM outputs ORDER BY id DESC;
DELETE FROM jobs WHERE kind = 'build';
DROP TABLE encodings;
ALTER TABLE madeFiles RENAME TO encodings;

CREATE TABLE newOutputs (
  id INTEGER PRIMARY KEY,
  buildId INTEGER NOT NULL REFERENCES builds(id),
  assignmentId INTEGER NOT NULL REFERENCES assignments(id) ON DELETE CASCADE,
  fileId TEXT NOT NULL,
  encodingId INTEGER NOT NULL REFERENCES encodings(id),
  UNIQUE (buildId, assignmentId, fileId)
) STRICT;
INSERT INTO newOutputs
  SELECT outputs.id, buildId, assignmentId, fileId, encodings.id
  FROM outputs JOIN encodings ON encodings.key = outputs.outputKey;
DROP TABLE outputs;
ALTER TABLE newOutputs RENAME TO outputs;

-- What hangs on a sound counts as a change of it.
CREATE TRIGGER outputQueued AFTER INSERT ON outputs BEGIN
  UPDATE revisions SET latest = latest + 1;
  UPDATE sounds SET revision = (SELECT latest FROM revisions)
    WHERE id = (SELECT soundId FROM assignments WHERE id = NEW.assignmentId);
END;
CREATE TRIGGER encodingChanged AFTER UPDATE ON encodings BEGIN
  UPDATE revisions SET latest = latest + 1;
  UPDATE sounds SET revision = (SELECT latest FROM revisions)
    WHERE id IN (SELECT soundId FROM assignments WHERE id IN
      (SELECT assignmentId FROM outputs WHERE encodingId = NEW.id));
END;

CREATE INDEX outputsOfAssignment ON outputs(assignmentId, fileId, id);
CREATE INDEX outputsOfEncoding ON outputs(encodingId);
CREATE INDEX buildsOfProject ON builds(projectId);
CREATE INDEX encodingsByFile ON encodings(sha256) WHERE sha256 IS NOT NULL;
CREATE INDEX encodingsToMake ON encodings(plan ->> '$.sourceSha256') WHERE state IN ('queued', 'running');
CREATE INDEX soundsByFileName ON sounds(projectId, fileName);
`;
