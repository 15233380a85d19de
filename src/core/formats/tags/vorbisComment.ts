import { statedLoop, tidyTags, type Marks, type TagName, type Tags } from '../../marks';
import { lostManner, reversedLoop } from '../loopTroubles';
import type { StatedHeader } from '../types';
import { ByteWriter, encodeText, viewOf } from '../bits';

/** Comment fields of Vorbis, Opus and FLAC (Vorbis I, 5; RFC 7845, 5.2; RFC 9639, 8.6). */
const fields: Record<TagName, readonly string[]> = {
  title: ['TITLE'],
  artist: ['ARTIST'],
  album: ['ALBUM'],
  genre: ['GENRE'],
  year: ['DATE', 'YEAR'],
  comment: ['COMMENT', 'DESCRIPTION'],
  track: ['TRACKNUMBER'],
};

const VENDOR = 'Bijou';
/** Fields behind so many are not looked at. */
const MOST_FIELDS = 4_096;

/** Reads a comment block; what does not fit in `bytes` is left out. */
export function readVorbisComment(bytes: Uint8Array): Map<string, string> {
  const found = new Map<string, string>();
  const view = viewOf(bytes);
  let at = 0;
  const text = (): string | null => {
    if (at + 4 > bytes.length) return null;
    const length = view.getUint32(at, true);
    at += 4;
    if (at + length > bytes.length) return null;
    at += length;
    return new TextDecoder().decode(bytes.subarray(at - length, at));
  };
  if (text() === null || at + 4 > bytes.length) return found;
  const count = Math.min(MOST_FIELDS, view.getUint32(at, true));
  at += 4;
  for (let i = 0; i < count; i++) {
    const entry = text();
    if (entry === null) break;
    const equals = entry.indexOf('=');
    if (equals > 0) {
      const key = entry.slice(0, equals).toUpperCase();
      if (!found.has(key)) found.set(key, entry.slice(equals + 1));
    }
  }
  return found;
}

export function tagsOfComments(comments: ReadonlyMap<string, string>): Tags {
  const found: Partial<Record<TagName, string | undefined>> = {};
  for (const [name, keys] of Object.entries(fields)) {
    found[name as TagName] = keys.map((key) => comments.get(key)).find((text) => text);
  }
  return tidyTags(found);
}

/** The loop that `LOOPSTART` with `LOOPLENGTH` or `LOOPEND` state, in frames, and what is not used of it. */
export function loopOfComments(
  comments: ReadonlyMap<string, string>,
): Pick<StatedHeader, 'loop' | 'loopTroubles'> {
  const number = (key: string) => {
    const text = comments.get(key)?.trim() ?? '';
    return /^\d{1,15}$/.test(text) ? Number(text) : null;
  };
  const start = number('LOOPSTART');
  const length = number('LOOPLENGTH');
  if (start === null) return { loop: null };
  const end = length === null ? number('LOOPEND') : start + length;
  if (end === null) return { loop: null };
  const loop = statedLoop(start, end);
  return loop ? { loop } : { loop, loopTroubles: [reversedLoop(start, end)] };
}

/** What the comments have no place for: a loop in them runs forward and never ends. */
export function lostInComments({ loop }: Pick<Marks, 'loop'>): string[] {
  const isBack = loop?.isBackAndForth ? ['a loop that runs back and forth'] : [];
  return [...isBack, ...lostManner(loop)];
}

/** A comment block with tags, the loop, and whatever else a format keeps there as `NAME=text`. */
export function writeVorbisComment(
  { tags, loop }: Marks,
  more: readonly string[] = [],
): Uint8Array {
  const entries = Object.entries(tags).map(
    ([name, text]) => `${fields[name as TagName][0]}=${text}`,
  );
  if (loop && !loop.isBackAndForth) {
    entries.push(`LOOPSTART=${loop.startFrame}`, `LOOPLENGTH=${loop.endFrame - loop.startFrame}`);
  }
  entries.push(...more);
  const out = new ByteWriter();
  const put = (text: string) => {
    const bytes = encodeText(text);
    out.u32le(bytes.length).raw(bytes);
  };
  put(VENDOR);
  out.u32le(entries.length);
  entries.forEach(put);
  return out.bytes();
}
