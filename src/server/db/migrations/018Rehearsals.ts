/** What the hosts said of what was built last for each destination that has one. */
export const rehearsals = `
CREATE TABLE rehearsals (
  -- Never given again: jobs name it.
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  projectId INTEGER NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  briefId TEXT NOT NULL,
  -- due: its files are being made; checking; done; failed, which error says.
  state TEXT NOT NULL,
  error TEXT,
  -- What the host said, as JSON; null until it has said something.
  result TEXT,
  UNIQUE (projectId, briefId)
) STRICT;

-- What it said of each sound, as long as that has the same files there.
CREATE TABLE rehearsedSounds (
  assignmentId INTEGER PRIMARY KEY REFERENCES assignments(id) ON DELETE CASCADE,
  -- The host with its version, and the hashes of the files.
  host TEXT NOT NULL,
  files TEXT NOT NULL,
  -- Why it was refused; null where it was accepted.
  refusal TEXT
) STRICT;

-- What hangs on a sound counts as a change of it.
CREATE TRIGGER soundRehearsed AFTER INSERT ON rehearsedSounds BEGIN
  UPDATE revisions SET latest = latest + 1;
  UPDATE sounds SET revision = (SELECT latest FROM revisions)
    WHERE id = (SELECT soundId FROM assignments WHERE id = NEW.assignmentId);
END;
`;
