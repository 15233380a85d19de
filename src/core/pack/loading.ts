/** Links that loading is reckoned for, in Mbit/s: a poor one, a usual one, a good one. */
export const links = [2, 10, 50] as const;

/** How long so many bytes take over a link, in seconds, without what it takes to ask for them. */
export function loadSeconds(bytes: number, mbits: number): number {
  return (bytes * 8) / (mbits * 1e6);
}
