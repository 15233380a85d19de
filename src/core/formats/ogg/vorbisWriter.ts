import * as yup from 'yup';
import type { ByteSink } from '../../bytes/source';
import type { Marks } from '../../marks';
import { blockFrames, sliceBlock, type Block, type PcmStream } from '../../pcm/pcm';
import { LOWEST_HZ } from '../../pcm/rates';
import { leadIn, leadOut } from '../around';
import { encodeText, joinBytes } from '../bits';
import { noSound } from '../problems';
import { lostInComments, writeVorbisComment } from '../tags/vorbisComment';
import type { WriterKind, WriteResult } from '../types';
import { withoutFetch } from '../withoutFetch';
import { OggPager, readPage, type OggPage } from './page';
import { findPlace, LoopPages } from './vorbisLoop';

/** Vorbis quality, −1 (smallest) … 10 (best). */
export interface VorbisSettings {
  quality: number;
}

/** Fixed, so that the same sound always gives the same bytes. */
const STREAM_SERIAL = 0x0b1900;

/** Four of the longest blocks. */
const REACH = 8_192;

/** What the encoder means stereo at 44.1 kHz to come to, by quality from −1. */
const STEREO_KBPS = [45, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320, 500];

export const oggWriter: WriterKind<VorbisSettings> = {
  id: 'ogg',
  name: 'Ogg Vorbis',
  format: 'ogg',
  container: 'ogg',
  codec: 'vorbis',
  extension: 'ogg',
  mimeType: 'audio/ogg; codecs=vorbis',
  version: 'libvorbis-1.3.7-bijou-3',
  reach: REACH,
  // What the encoder takes; the standard itself names no bounds.
  legal: { rates: { fromHz: LOWEST_HZ, toHz: 200_000 }, channels: [1, 2], depths: null },
  carries: { tags: true, loop: true, markers: false, speakers: false },
  loses: lostInComments,
  range: 'quality −1 (small) to 10 (best)',
  dials: [
    {
      name: 'quality',
      values: [-1, 0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10],
      usual: 5,
      says: { [-1]: 'small', 10: 'best' },
    },
  ],
  usualBytes({ quality }, rateHz, channels) {
    const kbps = STEREO_KBPS[Math.round(quality) + 1]!;
    const share = Math.min(1, rateHz / 44_100) * (channels === 1 ? 0.6 : 1);
    return [kbps * share * 125 * 0.4, kbps * share * 125 * 1.3];
  },
  settings: yup.object({ quality: yup.number().min(-1).max(10).default(5).required() }),
  describe: ({ quality }) => `quality ${quality}`,
  write: writeVorbis,
};

async function writeVorbis(
  pcm: PcmStream,
  sink: ByteSink,
  { quality }: VorbisSettings,
  marks: Marks,
): Promise<WriteResult> {
  const begin = await encoderOf(pcm, quality);
  // Where only its end is a loop's, the beginning is as good as any.
  const isLoop = blockFrames(pcm.around?.before ?? []) > 0;
  const { place, blocks } = isLoop ? await placed(pcm, begin) : { place: null, blocks: pcm.blocks };
  const pages = place
    ? new LoopPages(STREAM_SERIAL, commentPacket(marks), place)
    : new PageRewriter(marks);
  const encoder = begin();
  const give = async (bytes: Uint8Array) => {
    for (const page of pages.push(bytes)) await sink.write(page);
  };
  let framesIn = 0;
  if (place) await give(encoder.encode(leadIn(pcm, place.leadFrames)));
  for await (const block of blocks) {
    framesIn += blockFrames(block);
    await give(encoder.encode(block));
  }
  if (framesIn === 0) throw noSound('Ogg Vorbis');
  // Packets that lie behind the end are left out again.
  if (place && pcm.around) await give(encoder.encode(leadOut(pcm, REACH)));
  await give(encoder.finalize());
  for (const page of pages.finish(framesIn)) await sink.write(page);
  return { framesIn, clippedSamples: 0 };
}

/** Begins the same encoding as often as it is asked. */
async function encoderOf({ channelCount, rateHz }: PcmStream, quality: number) {
  const { createOggEncoder } = await import('wasm-media-encoders');
  const encoder = await withoutFetch(createOggEncoder);
  return () => {
    encoder.configure({
      channels: channelCount as 1 | 2,
      sampleRate: rateHz,
      vbrQuality: quality,
      oggSerialNo: STREAM_SERIAL,
    });
    return encoder;
  };
}

/** A loop's place among its packets, where there is one, and the sound, whose beginning had to be read for it. */
async function placed(pcm: PcmStream, begin: Awaited<ReturnType<typeof encoderOf>>) {
  const reading = pcm.blocks[Symbol.asyncIterator]();
  const { done, value } = await reading.next();
  const first = done ? [] : (value as Block).map((channel) => channel.slice());
  async function* blocks(): AsyncGenerator<Block> {
    yield first;
    yield* { [Symbol.asyncIterator]: () => reading };
  }
  // What the encoder looks ahead; of a shorter loop all, and how it goes on.
  const ahead = [
    sliceBlock(first, 0, REACH),
    leadOut(pcm, Math.max(0, REACH - blockFrames(first))),
  ];
  const place = findPlace(begin, (frames) => leadIn(pcm, frames), ahead, REACH);
  return { place, blocks: blocks() };
}

/** The encoder knows no tags: its second packet, the comments, is exchanged, and all pages renumbered. */
class PageRewriter {
  private readonly pager = new OggPager(STREAM_SERIAL);
  private rest: Uint8Array = new Uint8Array(0);
  /** Payload of the second and third header packet, until both are whole. */
  private headers: Uint8Array[] = [];
  private headerEnds = 0;
  private pagesSeen = 0;

  constructor(private readonly marks: Marks) {}

  /** The finished pages that `bytes` completes. They are copies. */
  push(bytes: Uint8Array): Uint8Array[] {
    this.rest = joinBytes(this.rest, bytes);
    const out: Uint8Array[] = [];
    let at = 0;
    for (;;) {
      const page = readPage(this.rest, at);
      if (!page || at + page.bytes > this.rest.length) break;
      out.push(...this.take(page, this.rest.slice(at, at + page.bytes)));
      at += page.bytes;
    }
    this.rest = this.rest.subarray(at);
    return out;
  }

  private take(page: OggPage, bytes: Uint8Array): Uint8Array[] {
    this.pagesSeen++;
    if (this.pagesSeen === 1 || this.headerEnds === 2) return [this.pager.append(bytes)];
    this.headers.push(bytes.subarray(page.headerBytes));
    this.headerEnds += page.lacing.filter((size) => size < 255).length;
    if (this.headerEnds < 2) return [];
    const both = joinBytes(...this.headers);
    this.headers = [];
    return this.pager.pages([commentPacket(this.marks), both.subarray(setupAt(both))], 0n);
  }

  /** Nothing is left. */
  finish(): Uint8Array[] {
    return [];
  }
}

function commentPacket(marks: Marks): Uint8Array {
  const body = writeVorbisComment(marks);
  // Type and name in front, and a bit that marks a whole packet behind.
  return joinBytes(encodeText('\x03vorbis'), body, Uint8Array.of(1));
}

/** Where the setup packet begins behind the comments. */
function setupAt(both: Uint8Array): number {
  const mark = encodeText('\x05vorbis');
  for (let at = 7; at + mark.length <= both.length; at++) {
    if (mark.every((byte, i) => both[at + i] === byte)) return at;
  }
  throw new Error('the encoder wrote no setup header');
}
