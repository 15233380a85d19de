/** Candidates are tried on sounds, and what they came to is kept; sets of candidates have names. */
export const trials = `
-- One run: its trials can be held against each other.
CREATE TABLE comparisons (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  projectId INTEGER NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  -- How often each file is decoded to measure what that costs.
  runs INTEGER NOT NULL,
  -- What it is measured on, as JSON.
  machine TEXT NOT NULL,
  createdAt TEXT NOT NULL
) STRICT;
CREATE INDEX comparisonsOfProject ON comparisons(projectId);

CREATE TABLE trials (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  comparisonId INTEGER NOT NULL REFERENCES comparisons(id) ON DELETE CASCADE,
  soundId INTEGER NOT NULL REFERENCES sounds(id) ON DELETE CASCADE,
  candidate TEXT NOT NULL,
  -- How it is made and what it is held against; null where it cannot be made, which error says.
  encodingId INTEGER REFERENCES encodings(id),
  plan TEXT,
  error TEXT,
  -- What was measured, as JSON; null until then.
  figures TEXT,
  work TEXT
) STRICT;
CREATE INDEX trialsOfComparison ON trials(comparisonId);
CREATE INDEX trialsOfEncoding ON trials(encodingId);
CREATE INDEX trialsOfSound ON trials(soundId);

CREATE TABLE candidateSets (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  projectId INTEGER NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  name TEXT NOT NULL,
  candidates TEXT NOT NULL,
  UNIQUE (projectId, name)
) STRICT;
`;
