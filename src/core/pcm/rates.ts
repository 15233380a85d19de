/** Rates that sound can have, in Hz. */
export const LOWEST_HZ = 1_000;
export const HIGHEST_HZ = 768_000;

/** Whether sound can have that rate. */
export function isRate(hz: number): boolean {
  return Number.isInteger(hz) && hz >= LOWEST_HZ && hz <= HIGHEST_HZ;
}
