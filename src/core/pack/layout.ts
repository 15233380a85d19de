/** Where a file lies in a pack that holds several destinations. */
export function pathInPack(briefId: string, path: string): string {
  return `${briefId}/${path}`;
}
