/** Whether an object says of every key what another one says of it. */
export function isPartOf(part: object, whole: object): boolean {
  return Object.entries(part).every(
    ([key, value]) => (whole as Record<string, unknown>)[key] === value,
  );
}
