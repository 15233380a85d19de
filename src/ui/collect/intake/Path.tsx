/** A path as it was told, broken where it must be. */
export function Path({ path }: { path: string }) {
  return <span className="font-semibold break-all">{path}</span>;
}
