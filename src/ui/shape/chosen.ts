/** Sounds as they stand in an address: "3,4,9". What is no number is left out. */
export function idsOf(text: string | undefined): number[] {
  return (text ?? '')
    .split(',')
    .map(Number)
    .filter((id) => Number.isSafeInteger(id) && id > 0);
}

/** The address of a page that works on many sounds. */
export function pathFor(
  projectId: number,
  page: 'join' | 'several',
  soundIds: readonly number[],
): string {
  return `/p/${projectId}/shape/${page}?sounds=${soundIds.join(',')}`;
}
