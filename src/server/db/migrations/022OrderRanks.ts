/** Which order is next is asked again and again, of a hundred thousand of them. */
export const orderRanks = `
CREATE INDEX ordersByRank ON orders(rank, buildId);
`;
