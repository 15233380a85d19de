/** Raw sources need a description; everything is measured anew, with meters that were not there before. */
export const measures = `
-- How a source without a header is read; null for all others.
ALTER TABLE sources ADD COLUMN raw TEXT;

INSERT INTO jobs (projectId, kind, subjectId, state, createdAt)
  SELECT projectId, 'read', id, 'queued', strftime('%Y-%m-%dT%H:%M:%fZ', 'now')
  FROM sounds WHERE state = 'ready';
`;
