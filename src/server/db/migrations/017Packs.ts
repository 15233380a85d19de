/** What people decide about packs, with its history; and packs as they were made. */
export const packs = `
CREATE TABLE packSettings (
  projectId INTEGER NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  briefId TEXT NOT NULL,
  -- As JSON.
  settings TEXT NOT NULL,
  PRIMARY KEY (projectId, briefId)
) STRICT;

-- What one change did to the settings of one destination.
CREATE TABLE changedPackSettings (
  changeId INTEGER NOT NULL REFERENCES changes(id) ON DELETE CASCADE,
  briefId TEXT NOT NULL,
  before TEXT NOT NULL,
  after TEXT NOT NULL,
  undone INTEGER NOT NULL DEFAULT 0,
  PRIMARY KEY (changeId, briefId)
) STRICT;

CREATE TABLE packs (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  projectId INTEGER NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  title TEXT NOT NULL,
  -- Ids of the briefs that are in it, as JSON.
  briefs TEXT NOT NULL,
  -- waiting: its files are being made; packing; done; failed, which error says.
  state TEXT NOT NULL,
  error TEXT,
  -- Of its list; null until it is done.
  digest TEXT,
  createdAt TEXT NOT NULL,
  removedAt TEXT
) STRICT;
CREATE INDEX packsOfProject ON packs(projectId);

-- The files of a pack under the paths that they have in it.
CREATE TABLE packedFiles (
  packId INTEGER NOT NULL REFERENCES packs(id) ON DELETE CASCADE,
  path TEXT NOT NULL,
  kind TEXT NOT NULL,
  briefId TEXT NOT NULL,
  sha256 TEXT NOT NULL,
  bytes INTEGER NOT NULL,
  mimeType TEXT NOT NULL,
  soundId INTEGER,
  PRIMARY KEY (packId, path)
) STRICT, WITHOUT ROWID;
CREATE INDEX packedFilesBySha256 ON packedFiles(sha256);
`;
