/** What people say themselves that a destination accepts. */
export const ownBriefs = `
CREATE TABLE ownBriefs (
  projectId INTEGER NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  id TEXT NOT NULL,
  -- As it is written.
  brief TEXT NOT NULL,
  PRIMARY KEY (projectId, id)
) STRICT;
`;
