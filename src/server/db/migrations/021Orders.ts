/** A build of very many is begun a part at a time: sounds at destinations whose files are not queued yet. */
export const orders = `
CREATE TABLE orders (
  assignmentId INTEGER PRIMARY KEY REFERENCES assignments(id) ON DELETE CASCADE,
  buildId INTEGER NOT NULL REFERENCES builds(id) ON DELETE CASCADE,
  -- How many files it comes to.
  files INTEGER NOT NULL,
  rank INTEGER NOT NULL
) STRICT;
CREATE INDEX ordersOfBuild ON orders(buildId, assignmentId, files);
`;
