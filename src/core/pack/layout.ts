import type { Brief } from '../brief/schema';

/** Where a file lies in a pack that holds several destinations. */
export function pathInPack(briefId: string, path: string): string {
  return `${briefId}/${path}`;
}

/**
 * The folder of a destination in a pack: its own where its brief says so, none where it is alone, else one of its name.
 */
export function folderInPack(
  { id, layout }: Pick<Brief, 'id' | 'layout'>,
  isAlone: boolean,
): string {
  return layout?.inFolder ?? (isAlone ? '' : id);
}

/** What of a pack a host is to look at: all of it, or where several lie side by side the folder of its destination. */
export function folderForHost(brief: Pick<Brief, 'id' | 'layout'>, isAlone: boolean): string {
  return isAlone ? '' : folderInPack(brief, isAlone);
}
