import type { ByteSource } from '../../bytes/source';
import type { Tags } from '../../marks';
import type { Block } from '../../pcm/pcm';
import { ascii, decodeText, indexOfAscii, joinBytes } from '../bits';
import { OggPager } from '../ogg/page';
import { readVorbisHead } from '../ogg/vorbisReader';
import { decodeOpus } from '../opus/decode';
import { OPUS_RATE, readOpusHead } from '../opus/head';
import { packetFrames } from '../opus/packet';
import { PartCounter } from '../parts';
import { damagedHeader, noSound, truncated, unknownCodec } from '../problems';
import type { OpenedFile, ReaderKind, StatedHeader, Warning } from '../types';
import { decodeVorbis } from '../vorbis/decode';
import { readTags } from './tags';
import { webmElements, webmPackets, type WebmPacket } from './blocks';
import { elements, ID, readUint } from './ebml';

/** WebM, and Matroska with the same codecs; the sound of a video file counts too. */
export const webmReader: ReaderKind = {
  id: 'webm',
  name: 'WebM',
  codecs: 'Opus, Vorbis',
  extensions: ['webm', 'weba', 'mka', 'mkv'],
  detect: (head) => head[0] === 0x1a && head[1] === 0x45 && head[2] === 0xdf && head[3] === 0xa3,
  open: openWebm,
};

interface Track {
  number: number;
  codec: string;
  setup: Uint8Array;
}

async function openWebm(source: ByteSource): Promise<OpenedFile> {
  const head = await source.read(0, 64);
  const container = indexOfAscii(head, 'webm') >= 0 ? 'webm' : 'matroska';
  const { track, tags } = await readHead(source);
  const warnings: Warning[] = [];
  const file = { source, track, container, tags, warnings };
  if (track.codec === 'A_OPUS') return openOpus(file);
  if (track.codec === 'A_VORBIS') return openVorbis(file);
  throw unknownCodec('WebM', track.codec.replace(/^A_/, ''), 'WebM with Opus, or WAV');
}

interface WebmFile {
  source: ByteSource;
  track: Track;
  container: string;
  tags: Tags;
  warnings: Warning[];
}

const headElements: ReadonlySet<number> = new Set([ID.tracks, ID.tags]);

/** Tracks and tags; tags behind the clusters are read too. */
async function readHead(source: ByteSource): Promise<{ track: Track; tags: Tags }> {
  let tracks: Track[] | null = null;
  let tags: Tags = {};
  const counter = new PartCounter('The WebM file');
  for await (const found of webmElements(source, headElements)) {
    for (const { id, body } of found) {
      counter.add(0);
      if (id === ID.tags) tags = { ...readTags(body), ...tags };
      else tracks ??= [...elements(body)].flatMap((entry) => readTrack(entry.body));
    }
  }
  const [track] = tracks ?? [];
  if (track) return { track, tags };
  throw tracks
    ? noSound('WebM')
    : damagedHeader('The WebM file has no list of tracks', Math.min(64, source.size));
}

const AUDIO = 2;

function readTrack(entry: Uint8Array): Track[] {
  const fields = new Map([...elements(entry)].map(({ id, body }) => [id as number, body]));
  const number = fields.get(ID.trackNumber);
  const codec = fields.get(ID.codecId);
  if (!number || !codec || readUint(fields.get(ID.trackType) ?? number) !== AUDIO) return [];
  const setup = fields.get(ID.codecPrivate)?.slice() ?? new Uint8Array(0);
  return [{ number: readUint(number), codec: decodeText(codec), setup }];
}

async function openOpus({ source, track, ...file }: WebmFile): Promise<OpenedFile> {
  const head = readOpusHead(track.setup, 'WebM', 0);
  const { warnings } = file;
  let isCut = false;
  const packets = () => webmPackets(source, track.number, () => (isCut = true));
  let total = 0;
  let discarded = 0;
  for await (const some of packets()) {
    for (const { data, discardNs } of some) {
      total += packetFrames(data, head.streamCount) ?? 0;
      discarded += Math.round((discardNs * OPUS_RATE) / 1e9);
    }
  }
  const frames = total - head.preSkip - discarded;
  if (frames <= 0) throw noSound('WebM');
  if (isCut) warnings.push(truncated('it ends in the middle'));
  const header: StatedHeader = {
    container: file.container,
    codec: 'opus',
    sampleRateHz: OPUS_RATE,
    channels: head.channels,
    bitDepth: null,
    frames,
    tags: file.tags,
    addedFrames: { head: head.preSkip, tail: discarded },
  };
  return {
    header,
    warnings,
    pcm: (startFrame = 0) => ({
      rateHz: OPUS_RATE,
      channelCount: head.channels,
      frames: frames - startFrame,
      gridBits: null,
      blocks: decodeOpus(dataOf(packets()), head, warnings, { startFrame, frames }),
    }),
  };
}

async function* dataOf(packets: AsyncIterable<WebmPacket[]>): AsyncGenerator<Uint8Array> {
  for await (const some of packets) for (const { data } of some) yield data;
}

/** Vorbis packets go to the decoder in pages of Ogg, which is what it takes. */
async function openVorbis({ source, track, ...file }: WebmFile): Promise<OpenedFile> {
  const setup = splitSetup(track.setup);
  const { channels, sampleRateHz } = readVorbisHead(setup[0]!, 0);
  const { warnings } = file;
  let isCut = false;
  let discarded = 0;
  async function* pages(): AsyncGenerator<Uint8Array> {
    const pager = new OggPager(1);
    const [first, ...rest] = setup;
    yield joinBytes(...pager.pages([first!], 0n), ...pager.pages(rest, 0n));
    for await (const some of webmPackets(source, track.number, () => (isCut = true))) {
      // Without positions nothing is trimmed; what is to go, goes below.
      const made = some.flatMap(({ data }) => (data.length > 0 ? pager.pages([data], -1n) : []));
      for (const { discardNs } of some) discarded += Math.round((discardNs * sampleRateHz) / 1e9);
      yield joinBytes(...made);
    }
    if (isCut) warnings.push(truncated('it ends in the middle'));
  }
  return {
    header: {
      container: file.container,
      codec: 'vorbis',
      sampleRateHz,
      channels,
      bitDepth: null,
      frames: null,
      tags: file.tags,
    },
    warnings,
    pcm: (startFrame = 0) => ({
      rateHz: sampleRateHz,
      channelCount: channels,
      frames: null,
      gridBits: null,
      blocks: heldBack(decodeVorbis(pages(), warnings, startFrame, channels), () => discarded),
    }),
  };
}

/** Drops what is to be discarded at the end, which is known only then. A packet is at most 8,192 frames. */
async function* heldBack(
  blocks: AsyncIterable<Block>,
  discarded: () => number,
): AsyncGenerator<Block> {
  let held: Block | null = null;
  for await (const block of blocks) {
    if (held) yield held;
    held = block;
  }
  if (!held) return;
  const end = Math.max(0, (held[0]?.length ?? 0) - discarded());
  if (end > 0) yield held.map((channel) => channel.subarray(0, end));
}

/** The three header packets of Vorbis, laced in Xiph's way into one. */
function splitSetup(setup: Uint8Array): Uint8Array[] {
  let at = 1;
  const sizes = [0, 0].map(() => {
    let size = 0;
    while (setup[at] === 255) size += setup[at++]!;
    return size + (setup[at++] ?? 0);
  });
  const packets: Uint8Array[] = [];
  for (const size of sizes) {
    packets.push(setup.subarray(at, at + size));
    at += size;
  }
  packets.push(setup.subarray(at));
  const isWhole =
    setup[0] === 2 && at < setup.length && packets.every((p) => ascii(p, 1, 6) === 'vorbis');
  if (!isWhole) throw damagedHeader('The WebM file has no Vorbis headers');
  return packets;
}
