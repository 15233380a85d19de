import { MPEGDecoder } from 'mpg123-decoder';
import { pieces, type ByteSource } from '../../bytes/source';
import type { Block, PcmStream } from '../../pcm/pcm';
import { ascii } from '../bits';
import { damagedFrames, damagedHeader, damagedSound, noSound, truncated } from '../problems';
import type { ReaderKind, SoundReader, Warning } from '../types';
import { FrameWindow } from '../window';
import { FrameSplitter, readFrameHeader, type FrameHeader } from './frame';
import { DECODER_DELAY, readInfoFrame, type DelayInfo } from './infoFrame';

/** MP3: layer III frames with or without ID3v2 in front and a delay header. */
export const mp3Reader: ReaderKind = {
  id: 'mp3',
  name: 'MP3',
  detect: (head) => ascii(head, 0, 3) === 'ID3' || firstFrame(head, 0, 4096) !== null,
  open: openMp3,
};

/** How far behind the tags the first frame may lie. */
const SEARCH_BYTES = 1 << 16;
/** MPEG frames decoded at a time: 44 × 1152 sound frames stay below the largest block. */
const BATCH = 44;

async function openMp3(source: ByteSource): Promise<SoundReader> {
  const tagEnd = await skipTags(source);
  const head = await source.read(tagEnd, SEARCH_BYTES + 4096);
  const found = firstFrame(head, 0, SEARCH_BYTES);
  if (!found) {
    throw tagEnd >= source.size
      ? noSound('MP3')
      : damagedHeader('No MP3 frame was found behind the tags', tagEnd);
  }
  const info = readInfoFrame(head.subarray(found.at, found.at + found.header.bytes), found.header);
  const soundStart = tagEnd + found.at + (info ? found.header.bytes : 0);
  if (soundStart >= source.size || info?.mpegFrames === 0) throw noSound('MP3');
  const plan = trimPlan(info, found.header);
  const warnings: Warning[] = [];
  if (plan.frames === null) {
    warnings.push({
      code: 'no-delay-header',
      message:
        'The file does not say how much silence its encoder added, so a little is left at both ends.',
    });
  }
  return {
    header: {
      container: 'mp3',
      codec: 'mp3',
      sampleRateHz: found.header.rateHz,
      channels: found.header.channels,
      bitDepth: null,
      frames: plan.frames,
    },
    warnings,
    pcm: (startFrame = 0) =>
      decode(source, soundStart, found.header, plan, info, warnings, startFrame),
  };
}

interface Trim {
  skip: number;
  frames: number | null;
}

function trimPlan(info: DelayInfo | null, header: FrameHeader): Trim {
  if (!info || info.delay === null || info.padding === null || info.mpegFrames === null) {
    return { skip: 0, frames: null };
  }
  const frames = info.mpegFrames * header.samples - info.delay - info.padding;
  return frames > 0 ? { skip: info.delay + DECODER_DELAY, frames } : { skip: 0, frames: null };
}

async function skipTags(source: ByteSource): Promise<number> {
  let at = 0;
  for (;;) {
    const head = await source.read(at, 10);
    if (head.length < 10 || ascii(head, 0, 3) !== 'ID3') return at;
    const [a = 0, b = 0, c = 0, d = 0] = head.subarray(6, 10);
    const size = ((a & 127) << 21) | ((b & 127) << 14) | ((c & 127) << 7) | (d & 127);
    at += 10 + size + (head[5]! & 0x10 ? 10 : 0);
  }
}

/** A frame counts as found when another of its kind follows where it ends, or the bytes end there. */
function firstFrame(bytes: Uint8Array, from: number, limit: number) {
  for (let at = from; at < Math.min(limit, bytes.length - 4); at++) {
    const header = readFrameHeader(bytes, at);
    if (!header) continue;
    const next = at + header.bytes;
    const follows = next + 4 <= bytes.length ? readFrameHeader(bytes, next) : null;
    if (follows && follows.rateHz === header.rateHz) return { at, header };
    if (at === 0 && next >= bytes.length) return { at, header };
  }
  return null;
}

function decode(
  source: ByteSource,
  soundStart: number,
  header: FrameHeader,
  plan: Trim,
  info: DelayInfo | null,
  warnings: Warning[],
  startFrame: number,
): PcmStream {
  async function* blocks(): AsyncGenerator<Block> {
    const decoder = new MPEGDecoder({ enableGapless: false });
    await decoder.ready;
    const splitter = new FrameSplitter();
    const window = new FrameWindow(
      plan.skip + startFrame,
      plan.frames === null ? Infinity : plan.frames - startFrame,
    );
    let mpegFrames = 0;
    let failed = 0;
    try {
      for await (const piece of pieces(source, soundStart)) {
        const frames = splitter.push(piece);
        for (let at = 0; at < frames.length; at += BATCH) {
          const batch = frames.slice(at, at + BATCH);
          const result = decoder.decodeFrames(batch);
          mpegFrames += batch.length;
          failed += result.errors.length;
          const block = window.cut(result.channelData.slice(0, header.channels));
          if (block) yield block;
        }
      }
    } finally {
      decoder.free();
    }
    if (failed >= mpegFrames) throw damagedSound('MP3');
    if (failed > 0) warnings.push(damagedFrames(failed));
    const missing = (info?.mpegFrames ?? 0) - mpegFrames;
    if (missing > 0) {
      warnings.push(truncated(`${missing} of ${info?.mpegFrames} MP3 frames are missing`));
    } else if (splitter.openBytes > 0) {
      warnings.push(truncated('its last MP3 frame is not complete'));
    }
  }
  return {
    rateHz: header.rateHz,
    channelCount: header.channels,
    frames: plan.frames === null ? null : plan.frames - startFrame,
    gridBits: null,
    blocks: blocks(),
  };
}
