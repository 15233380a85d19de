/** Conversions that were asked for directly, without a destination. */
export const oneOffs = `
CREATE TABLE oneOffs (
  id INTEGER PRIMARY KEY,
  projectId INTEGER NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  -- What was asked for.
  wish TEXT NOT NULL,
  createdAt TEXT NOT NULL
) STRICT;
CREATE INDEX oneOffsOfProject ON oneOffs(projectId);

-- Each file of one, in the order in which it was asked for.
CREATE TABLE oneOffFiles (
  id INTEGER PRIMARY KEY,
  oneOffId INTEGER NOT NULL REFERENCES oneOffs(id) ON DELETE CASCADE,
  soundId INTEGER NOT NULL REFERENCES sounds(id) ON DELETE CASCADE,
  name TEXT NOT NULL,
  changes TEXT NOT NULL,
  -- Null where it cannot be made: then there is an error.
  encodingId INTEGER REFERENCES encodings(id),
  error TEXT,
  CHECK ((encodingId IS NULL) = (error IS NOT NULL))
) STRICT;
CREATE INDEX oneOffFilesOf ON oneOffFiles(oneOffId);
CREATE INDEX oneOffFilesOfEncoding ON oneOffFiles(encodingId);
CREATE INDEX oneOffFilesOfSound ON oneOffFiles(soundId);
`;
