import { tidyTags, type TagName, type Tags } from '../../marks';
import { decodeText } from '../bits';
import { element, elements, ID, readUint, text, uint } from './ebml';

/** What a tag is about: one piece of music, or the album that it is on (RFC 9559, 5.1.8.1.1). */
const TRACK_LEVEL = 30;
const ALBUM_LEVEL = 50;

const names: Record<Exclude<TagName, 'album'>, string> = {
  title: 'TITLE',
  artist: 'ARTIST',
  genre: 'GENRE',
  year: 'DATE_RELEASED',
  comment: 'COMMENT',
  track: 'PART_NUMBER',
};

/** The element with all tags; no bytes without any. The name of an album is a title one level up. */
export function writeTags({ album, ...texts }: Tags): Uint8Array {
  const simple = (name: string, value: string) =>
    element(ID.simpleTag, text(ID.tagName, name), text(ID.tagString, value));
  const tag = (level: number, values: readonly Uint8Array[]) =>
    element(ID.tag, element(ID.targets, uint(ID.targetTypeValue, level)), ...values);
  const ofTrack = Object.entries(texts).map(([name, value]) =>
    simple(names[name as keyof typeof names], value),
  );
  const tags = [
    ...(album === undefined ? [] : [tag(ALBUM_LEVEL, [simple('TITLE', album)])]),
    ...(ofTrack.length > 0 ? [tag(TRACK_LEVEL, ofTrack)] : []),
  ];
  return tags.length > 0 ? element(ID.tags, ...tags) : new Uint8Array(0);
}

/** Reads the body of that element. */
export function readTags(body: Uint8Array): Tags {
  const levels = new Map<number, Map<string, string>>();
  for (const tag of elements(body)) {
    const parts = [...elements(tag.body)];
    const level = levelOf(parts.find(({ id }) => id === ID.targets)?.body);
    const found = levels.get(level) ?? new Map<string, string>();
    levels.set(level, found);
    for (const simple of parts) {
      if (simple.id !== ID.simpleTag) continue;
      const fields = new Map([...elements(simple.body)].map((part) => [part.id, part.body]));
      const name = fields.get(ID.tagName);
      const value = fields.get(ID.tagString);
      if (name && value) found.set(decodeText(name).toUpperCase(), decodeText(value));
    }
  }
  const ofTrack = levels.get(TRACK_LEVEL);
  const ofAlbum = levels.get(ALBUM_LEVEL);
  const all = new Map([...levels.values()].flatMap((found) => [...found]));
  for (const [name, value] of ofTrack ?? []) all.set(name, value);
  // Where nothing is said of a track, the upper level speaks of the file.
  const isNested = ofTrack !== undefined;
  return tidyTags({
    title: isNested ? ofTrack.get('TITLE') : all.get('TITLE'),
    album: all.get('ALBUM') ?? (isNested ? ofAlbum?.get('TITLE') : undefined),
    artist: all.get('ARTIST'),
    genre: all.get('GENRE'),
    year: all.get('DATE_RELEASED') ?? all.get('DATE'),
    comment: all.get('COMMENT'),
    track: all.get('PART_NUMBER'),
  });
}

function levelOf(targets: Uint8Array | undefined): number {
  const value = [...elements(targets ?? new Uint8Array(0))].find(
    ({ id }) => id === ID.targetTypeValue,
  );
  return value ? readUint(value.body) : ALBUM_LEVEL;
}
