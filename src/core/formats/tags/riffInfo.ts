import { tidyTags, type TagName, type Tags } from '../../marks';
import { ascii, ByteWriter, decodeText, encodeText, joinBytes, viewOf } from '../bits';

/** Chunks of a RIFF `LIST` of type `INFO` (Microsoft, Multimedia Programming Interface 1.0). */
const chunks: Record<TagName, readonly string[]> = {
  title: ['INAM'],
  artist: ['IART'],
  album: ['IPRD'],
  genre: ['IGNR'],
  year: ['ICRD'],
  comment: ['ICMT'],
  track: ['ITRK', 'IPRT'],
};

/** Sub-chunks of a RIFF list body: name and bytes. Stops where one does not fit. */
export function* subChunks(body: Uint8Array, from = 0): Generator<[id: string, data: Uint8Array]> {
  const view = viewOf(body);
  for (let at = from; at + 8 <= body.length;) {
    const size = view.getUint32(at + 4, true);
    if (at + 8 + size > body.length) return;
    yield [ascii(body, at, 4), body.subarray(at + 8, at + 8 + size)];
    at += 8 + size + (size % 2);
  }
}

/** Reads the body of a `LIST`; empty when its type is not `INFO`. */
export function readRiffInfo(body: Uint8Array): Tags {
  if (ascii(body, 0, 4) !== 'INFO') return {};
  const texts = new Map<string, string>();
  for (const [id, data] of subChunks(body, 4)) texts.set(id, decodeText(data));
  const found: Partial<Record<TagName, string | undefined>> = {};
  for (const [name, ids] of Object.entries(chunks)) {
    found[name as TagName] = ids.map((id) => texts.get(id)).find((text) => text);
  }
  return tidyTags(found);
}

/** A whole `LIST` chunk; no bytes without tags. */
export function writeRiffInfo(tags: Tags): Uint8Array {
  const list = new ByteWriter().text('INFO');
  for (const [name, text] of Object.entries(tags)) {
    const id = chunks[name as TagName][0]!;
    list.raw(riffChunk(id, joinBytes(infoText(text), new Uint8Array(1))));
  }
  return list.length > 4 ? riffChunk('LIST', list.bytes()) : new Uint8Array(0);
}

/** ISO 8859-1 as the format has it, where the text fits and cannot be taken for UTF-8; else UTF-8. */
function infoText(text: string): Uint8Array {
  const narrow = Uint8Array.from(text, (letter) => letter.charCodeAt(0));
  return isNarrow(text) && decodeText(narrow) === text ? narrow : encodeText(text);
}

function isNarrow(text: string): boolean {
  return [...text].every((letter) => letter.codePointAt(0)! < 256);
}

/** Tags that the format's own texts can hold in a way that everybody reads. */
export function fitsRiffInfo(tags: Tags): boolean {
  return Object.values(tags).every(isNarrow);
}

/** One chunk with its length in front, padded to an even size. */
export function riffChunk(id: string, data: Uint8Array): Uint8Array {
  const out = new ByteWriter().text(id).u32le(data.length).raw(data);
  return (data.length % 2 === 1 ? out.u8(0) : out).bytes();
}
