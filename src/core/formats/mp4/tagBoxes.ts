import type { TagName } from '../../marks';

/** Names of tags in an MP4 item list, as their reader and their writer have them. */
export const tagBoxes: Record<TagName, string> = {
  title: '\u00a9nam',
  artist: '\u00a9ART',
  album: '\u00a9alb',
  genre: '\u00a9gen',
  year: '\u00a9day',
  comment: '\u00a9cmt',
  track: 'trkn',
};
