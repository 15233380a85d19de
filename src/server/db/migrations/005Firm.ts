/** Deletions that a crash cannot lose, jobs only while they are open, and what tells whether a sound was edited. */
export const firm = `
-- Stored files that nothing needed when they were put here. They are asked about again before they go.
CREATE TABLE deletions (sha256 TEXT PRIMARY KEY) STRICT;

-- A job is a row while there is something to do; what came of it stands with its subject. Its number is never given again.
CREATE TABLE openJobs (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  projectId INTEGER NOT NULL REFERENCES projects(id),
  kind TEXT NOT NULL,
  -- The sound that is read or joined, the output that is made, or the arrival that is unpacked.
  subjectId INTEGER NOT NULL,
  state TEXT NOT NULL CHECK (state IN ('queued', 'running')),
  -- How often it brought down what it ran in.
  attempts INTEGER NOT NULL DEFAULT 0,
  -- It was at work when something fell over: it runs in a process of its own.
  isSuspect INTEGER NOT NULL DEFAULT 0,
  createdAt TEXT NOT NULL
) STRICT;
INSERT INTO openJobs (id, projectId, kind, subjectId, state, createdAt)
  SELECT id, projectId, kind, subjectId, state, createdAt FROM jobs WHERE state IN ('queued', 'running');
DROP TABLE jobs;
ALTER TABLE openJobs RENAME TO jobs;
CREATE INDEX jobsByState ON jobs(state, id);
CREATE INDEX jobsOfSubject ON jobs(kind, subjectId);

-- The revision in which somebody changed the sound last: whoever knows an older one is told so.
ALTER TABLE sounds ADD COLUMN editedAt INTEGER NOT NULL DEFAULT 0;

-- How a finished file without a header is read, for pictures of it.
ALTER TABLE encodings ADD COLUMN raw TEXT;

-- Asked at every deletion, and at every piece of news.
CREATE INDEX encodingsByFile ON encodings(sha256);
CREATE INDEX outputsOfAssignment ON outputs(assignmentId, fileId, id);
CREATE INDEX outputsByKey ON outputs(outputKey);
CREATE INDEX assignmentsOfSound ON assignments(soundId);
CREATE INDEX soundsReplacing ON sounds(replaces) WHERE replaces IS NOT NULL;
CREATE INDEX archivesWaiting ON arrivals(archiveSha256) WHERE archiveSha256 IS NOT NULL;
CREATE INDEX sourcesBefore ON changedSounds(before ->> '$.sourceSha256')
  WHERE before ->> '$.sourceSha256' IS NOT NULL;
CREATE INDEX sourcesAfter ON changedSounds(after ->> '$.sourceSha256')
  WHERE after ->> '$.sourceSha256' IS NOT NULL;
`;
