/** Sounds can say which language they are in: destinations have a place for each. */
export const languages = `
-- As in "en" or "pt-br"; null where nobody has said.
ALTER TABLE sounds ADD COLUMN language TEXT;
`;
