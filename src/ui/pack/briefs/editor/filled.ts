/** Without what is undefined; undefined when nothing is left over. */
export function filled<T extends object>(value: T): T | undefined {
  const entries = Object.entries(value).filter(([, one]) => one !== undefined);
  return entries.length === 0 ? undefined : (Object.fromEntries(entries) as T);
}
