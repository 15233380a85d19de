/** Projects, what came in, what is to become of it, and what has. */
export const first = `
CREATE TABLE projects (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  createdAt TEXT NOT NULL
) STRICT;

-- The bytes as they came in. Facts are null until they have been read.
CREATE TABLE sources (
  sha256 TEXT PRIMARY KEY,
  bytes INTEGER NOT NULL,
  facts TEXT,
  warnings TEXT NOT NULL DEFAULT '[]'
) STRICT;

CREATE TABLE sounds (
  id INTEGER PRIMARY KEY,
  projectId INTEGER NOT NULL REFERENCES projects(id),
  name TEXT NOT NULL,
  fileName TEXT NOT NULL,
  sourceSha256 TEXT NOT NULL REFERENCES sources(sha256),
  recipe TEXT NOT NULL,
  state TEXT NOT NULL CHECK (state IN ('reading', 'ready', 'refused')),
  error TEXT,
  addedAt TEXT NOT NULL,
  removedAt TEXT
) STRICT;
CREATE INDEX soundsOfProject ON sounds(projectId);

-- "This sound goes to this brief", with what a person chose for it.
CREATE TABLE assignments (
  id INTEGER PRIMARY KEY,
  soundId INTEGER NOT NULL REFERENCES sounds(id),
  briefId TEXT NOT NULL,
  choices TEXT NOT NULL DEFAULT '{}',
  UNIQUE (soundId, briefId)
) STRICT;

CREATE TABLE builds (
  id INTEGER PRIMARY KEY,
  projectId INTEGER NOT NULL REFERENCES projects(id),
  createdAt TEXT NOT NULL
) STRICT;

CREATE TABLE outputs (
  id INTEGER PRIMARY KEY,
  buildId INTEGER NOT NULL REFERENCES builds(id),
  assignmentId INTEGER NOT NULL REFERENCES assignments(id) ON DELETE CASCADE,
  fileId TEXT NOT NULL,
  outputKey TEXT NOT NULL,
  name TEXT NOT NULL,
  state TEXT NOT NULL CHECK (state IN ('queued', 'running', 'done', 'failed', 'cancelled')),
  error TEXT,
  UNIQUE (buildId, assignmentId, fileId)
) STRICT;

-- Finished files by what made them, so that nothing is encoded twice.
CREATE TABLE encodings (
  outputKey TEXT PRIMARY KEY,
  sha256 TEXT NOT NULL,
  verification TEXT NOT NULL,
  warnings TEXT NOT NULL
) STRICT;

CREATE TABLE jobs (
  id INTEGER PRIMARY KEY,
  projectId INTEGER NOT NULL REFERENCES projects(id),
  kind TEXT NOT NULL,
  -- The sound that is read, or the output that is made.
  subjectId INTEGER NOT NULL,
  state TEXT NOT NULL CHECK (state IN ('queued', 'running', 'done', 'failed', 'cancelled')),
  progress REAL NOT NULL DEFAULT 0,
  attempts INTEGER NOT NULL DEFAULT 0,
  createdAt TEXT NOT NULL,
  finishedAt TEXT
) STRICT;
CREATE INDEX jobsByState ON jobs(state, id);
`;
