/** What is not sent any more keeps what was built for it, until a clean-up: it can be sent again. */
export const sending = `
ALTER TABLE assignments ADD COLUMN sent INTEGER NOT NULL DEFAULT 1 CHECK (sent IN (0, 1));
`;
