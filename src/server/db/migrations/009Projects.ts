/** A project that was deleted can be brought back until its bytes are let go. */
export const projects = `
ALTER TABLE projects ADD COLUMN removedAt TEXT;
`;
