import { HIGHEST_HZ, LOWEST_HZ } from '../../pcm/rates';
import type { ByteSource } from '../../bytes/source';
import { statedLoop, tidyTags, type Loop, type Tags } from '../../marks';
import { ascii, decodeText, viewOf } from '../bits';
import { sampleKinds, statedBits, type Encoding } from '../pcm/samples';
import { plainPcm } from '../pcm/stream';
import { iffChunks, KeptChunks } from '../iff';
import { reversedLoop } from '../loopTroubles';
import { damagedHeader, noSound, truncated, unknownCodec } from '../problems';
import { readId3Chunk } from '../tags/id3';
import type { OpenedFile, ReaderKind, StatedHeader } from '../types';
import { readExtended } from './extended';
import { count } from '../../tradeNames';
import { plural } from '../../words';

/** AIFF and AIFF-C (Apple, "Audio Interchange File Format", 1989, and its AIFF-C draft of 1991). */
export const aiffReader: ReaderKind = {
  id: 'aiff',
  name: 'AIFF',
  codecs: 'PCM 8 to 32 bits; AIFF-C: NONE, sowt, fl32, fl64',
  extensions: ['aif', 'aiff', 'aifc'],
  detect: (head) => ascii(head, 0, 4) === 'FORM' && ['AIFF', 'AIFC'].includes(ascii(head, 8, 4)),
  open: openAiff,
};

interface Common {
  channels: number;
  frames: number;
  bits: number;
  rateHz: number;
  compression: string;
}

async function openAiff(source: ByteSource): Promise<OpenedFile> {
  const { chunks, soundAt, soundBytes, statedBytes } = await readChunks(source);
  const body = chunks.first('COMM');
  if (!body) throw damagedHeader('The AIFF header has no common chunk', 12);
  const common = readCommon(body);
  const encoding = encodingOf(common);
  const sample = sampleKinds[encoding];
  const frameBytes = sample.bytes * common.channels;
  if (soundAt === null) {
    if (common.frames === 0) throw noSound('AIFF');
    throw damagedHeader('The AIFF file ends before its sound begins', source.size);
  }
  const there = Math.floor(soundBytes / frameBytes);
  const frames = common.frames > 0 ? Math.min(there, common.frames) : there;
  if (frames === 0) throw noSound('AIFF');
  const promised = Math.max(common.frames, Math.floor(statedBytes / frameBytes));
  const sound = {
    sample,
    rateHz: common.rateHz,
    channels: common.channels,
    startByte: soundAt,
    frames,
  };
  const warnings =
    common.frames > there
      ? [truncated(`the header promises ${plural(promised, 'frame')}, ${count(frames)} are there`)]
      : [];
  return {
    header: {
      container: 'aiff',
      codec: sample.codec,
      sampleRateHz: common.rateHz,
      channels: common.channels,
      bitDepth: statedBits(sample),
      frames,
      ...marksOf(chunks, frames),
    },
    warnings,
    pcm: (startFrame = 0) => plainPcm(source, sound, warnings, startFrame),
  };
}

/** What is read beside the sound. */
const wanted = new Set(['COMM', 'NAME', 'AUTH', 'ANNO', 'ID3 ', 'MARK', 'INST']);
const SOUND_HEAD_BYTES = 8;

async function readChunks(source: ByteSource) {
  const chunks = new KeptChunks();
  let soundAt: number | null = null;
  let soundBytes = 0;
  let statedBytes = 0;
  for await (const { id, start, stated, body } of iffChunks(source, false)) {
    if (id === 'SSND') {
      const head = await source.read(start, SOUND_HEAD_BYTES);
      if (head.length < SOUND_HEAD_BYTES) break;
      const offset = viewOf(head).getUint32(0);
      soundAt = start + SOUND_HEAD_BYTES + offset;
      statedBytes = Math.max(0, stated - SOUND_HEAD_BYTES - offset);
      soundBytes = Math.max(0, Math.min(statedBytes, source.size - soundAt));
    } else if (wanted.has(id)) {
      const bytes = await body();
      if (bytes) chunks.keep(id, bytes);
    }
  }
  return { chunks, soundAt, soundBytes, statedBytes };
}

function readCommon(body: Uint8Array): Common {
  if (body.length < 18) throw damagedHeader('The AIFF common chunk is too short', 12);
  const view = viewOf(body);
  const common = {
    channels: view.getInt16(0),
    frames: view.getUint32(2),
    bits: view.getInt16(6),
    rateHz: Math.round(readExtended(body, 8)),
    compression: body.length >= 22 ? ascii(body, 18, 4) : 'NONE',
  };
  if (common.channels < 1 || common.channels > 64) {
    throw damagedHeader(`The AIFF header says ${common.channels} channels`, 12);
  }
  if (!(common.rateHz >= LOWEST_HZ && common.rateHz <= HIGHEST_HZ)) {
    throw damagedHeader(`The AIFF header says a sample rate of ${common.rateHz} Hz`, 12);
  }
  return common;
}

/** Samples take whole bytes: 12 bits lie in the upper part of 16. */
function encodingOf({ compression, bits }: Common): Encoding {
  const bytes = Math.ceil(bits / 8);
  const big = { 1: 's8', 2: 's16be', 3: 's24be', 4: 's32be' } as const;
  const little = { 1: 's8', 2: 's16le', 3: 's24le', 4: 's32le' } as const;
  const integers = compression === 'sowt' ? little : big;
  const known: Record<string, Encoding | undefined> = {
    NONE: integers[bytes as 1],
    twos: integers[bytes as 1],
    sowt: integers[bytes as 1],
    fl32: 'f32be',
    FL32: 'f32be',
    fl64: 'f64be',
    FL64: 'f64be',
    alaw: 'alaw',
    ALAW: 'alaw',
    ulaw: 'ulaw',
    ULAW: 'ulaw',
  };
  const encoding = known[compression];
  if (encoding) return encoding;
  const what = compression in known ? `samples of ${bits} bits` : `the codec "${compression}"`;
  throw unknownCodec('AIFF', what, 'AIFF with 16 or 24 bits');
}

const textChunks = { title: 'NAME', artist: 'AUTH', comment: 'ANNO' } as const;

function marksOf(chunks: KeptChunks, frames: number): Partial<StatedHeader> {
  const text = (id: string) => {
    const body = chunks.first(id);
    return body && decodeText(body);
  };
  const id3 = chunks.all('ID3 ').map(readId3Chunk);
  const plain = tidyTags({
    title: text(textChunks.title),
    artist: text(textChunks.artist),
    comment: text(textChunks.comment),
  });
  const tags: Tags = Object.assign(plain, ...id3) as Tags;
  const markers = readMarkers(chunks.first('MARK'));
  const { loop, endIds, troubles } = readLoop(chunks.first('INST'), markers);
  return {
    tags,
    loop,
    loopTroubles: troubles,
    // The two that hold the loop are no marks of their own.
    markers: [...markers]
      .filter(([id, { frame }]) => !endIds.includes(id) && frame <= frames)
      .map(([, marker]) => marker)
      .sort((a, b) => a.frame - b.frame),
  };
}

function readMarkers(body: Uint8Array | undefined) {
  const markers = new Map<number, { frame: number; name: string }>();
  if (!body || body.length < 2) return markers;
  const view = viewOf(body);
  let at = 2;
  for (let n = view.getUint16(0); n > 0 && at + 7 <= body.length; n--) {
    const length = body[at + 6]!;
    const name = decodeText(body.subarray(at + 7, at + 7 + length));
    markers.set(view.getInt16(at), { frame: view.getUint32(at + 2), name });
    // A Pascal string: its length and letters together take an even number of bytes.
    at += 6 + 1 + length + ((1 + length) % 2);
  }
  return markers;
}

/** How a loop of an instrument runs, as its chunk says. */
const PlayMode = { None: 0, Forward: 1, BackAndForth: 2 } as const;

/** The sustain loop of the instrument chunk, whose ends are markers. */
function readLoop(
  body: Uint8Array | undefined,
  markers: ReadonlyMap<number, { frame: number }>,
): { loop: Loop | null; endIds: number[]; troubles: string[] } {
  const troubles: string[] = [];
  if (!body || body.length < 14) return { loop: null, endIds: [], troubles };
  const view = viewOf(body);
  const [mode, startId, endId] = [view.getInt16(8), view.getInt16(10), view.getInt16(12)];
  const start = markers.get(startId);
  const end = markers.get(endId);
  if (body.length >= 20 && view.getInt16(14) !== PlayMode.None) troubles.push(RELEASE_LOOP);
  if (mode === PlayMode.None || !start || !end) return { loop: null, endIds: [], troubles };
  const isBackAndForth = mode === PlayMode.BackAndForth;
  const loop = statedLoop(start.frame, end.frame, { isBackAndForth });
  if (!loop) troubles.push(reversedLoop(start.frame, end.frame));
  return { loop, endIds: loop ? [startId, endId] : [], troubles };
}

const RELEASE_LOOP =
  'It states a loop for when a note is let go: only that of a held note is used.';
