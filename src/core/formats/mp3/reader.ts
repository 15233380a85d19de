import { pieces, type ByteSource } from '../../bytes/source';
import type { Block, PcmStream } from '../../pcm/pcm';
import { ascii } from '../bits';
import { damagedFrames, damagedHeader, damagedSound, noSound, truncated } from '../problems';
import { readId3v2, tagBytesAtEnd } from '../tags/id3';
import type { AddedFrames, OpenedFile, ReaderKind, Warning } from '../types';
import { FrameWindow } from '../window';
import { FrameSplitter, readFrameHeader, type FrameHeader } from './frame';
import { DECODER_DELAY, readInfoFrame, type DelayInfo } from './infoFrame';

/** MP3 and its elder, layer II, with or without tags around and a delay header in front. */
export const mp3Reader: ReaderKind = {
  id: 'mp3',
  name: 'MP3',
  codecs: 'MPEG-1, 2, 2.5 layers II and III',
  extensions: ['mp3', 'mp2', 'mpga'],
  detect: (head) => ascii(head, 0, 3) === 'ID3' || firstFrame(head, 0, 4096) !== null,
  open: openMp3,
};

/** How far behind the tags the first frame may lie. */
const SEARCH_BYTES = 1 << 16;
/** MPEG frames decoded at a time: 44 × 1152 sound frames stay below the largest block. */
const BATCH = 44;

async function openMp3(source: ByteSource): Promise<OpenedFile> {
  const { soundStart: tagEnd, tags } = await readId3v2(source);
  const behind = await tagBytesAtEnd(source);
  const end = source.size - behind.bytes;
  const head = await source.read(tagEnd, SEARCH_BYTES + 4096);
  const found = firstFrame(head, 0, SEARCH_BYTES);
  if (!found) {
    throw tagEnd >= end
      ? noSound('MP3')
      : damagedHeader('No MP3 frame was found behind the tags', tagEnd);
  }
  const first = head.subarray(found.at, found.at + found.header.bytes);
  const info = found.header.layer === 3 ? readInfoFrame(first, found.header) : null;
  const soundStart = tagEnd + found.at + (info ? found.header.bytes : 0);
  if (soundStart >= end || info?.mpegFrames === 0) throw noSound('MP3');
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
      codec: found.header.layer === 3 ? 'mp3' : 'mp2',
      sampleRateHz: found.header.rateHz,
      channels: found.header.channels,
      bitDepth: null,
      frames: plan.frames,
      tags: { ...behind.tags, ...tags },
      addedFrames: plan.added,
      constantKbps: keptKbps(head, soundStart - tagEnd),
    },
    warnings,
    pcm: (startFrame = 0) =>
      decode(source, soundStart, end, found.header, plan, info, warnings, startFrame),
  };
}

interface Trim {
  skip: number;
  frames: number | null;
  added: AddedFrames;
}

function trimPlan(info: DelayInfo | null, header: FrameHeader): Trim {
  const unknown = { skip: 0, frames: null, added: { head: 0, tail: 0 } };
  if (!info || info.delay === null || info.padding === null || info.mpegFrames === null) {
    return unknown;
  }
  const frames = info.mpegFrames * header.samples - info.delay - info.padding;
  const head = info.delay + DECODER_DELAY;
  const tail = Math.max(0, info.padding - DECODER_DELAY);
  return frames > 0 ? { skip: head, frames, added: { head, tail } } : unknown;
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

/** The bit rate of the first frames where all of them have the same, in kbit/s. Silence alone does not tell. */
function keptKbps(bytes: Uint8Array, from: number): number | null {
  let kept: number | null = null;
  for (let at = from; at + 4 <= bytes.length;) {
    const header = readFrameHeader(bytes, at);
    if (!header) break;
    if (kept !== null && header.kbps !== kept) return null;
    kept = header.kbps;
    at += header.bytes;
  }
  return kept;
}

function decode(
  source: ByteSource,
  soundStart: number,
  soundEnd: number,
  header: FrameHeader,
  plan: Trim,
  info: DelayInfo | null,
  warnings: Warning[],
  startFrame: number,
): PcmStream {
  async function* blocks(): AsyncGenerator<Block> {
    const { MPEGDecoder } = await import('mpg123-decoder');
    const decoder = new MPEGDecoder({ enableGapless: false });
    await decoder.ready;
    const splitter = new FrameSplitter(header.layer);
    const window = new FrameWindow(
      plan.skip + startFrame,
      plan.frames === null ? Infinity : plan.frames - startFrame,
    );
    let mpegFrames = 0;
    let failed = 0;
    try {
      for await (const piece of pieces(source, soundStart, soundEnd)) {
        const frames = splitter.push(piece);
        for (let at = 0; at < frames.length; at += BATCH) {
          const batch = frames.slice(at, at + BATCH);
          const result = decoder.decodeFrames(batch);
          mpegFrames += batch.length;
          failed += result.errors.length;
          const block = window.cut(result.channelData.slice(0, header.channels));
          if (block) yield block;
        }
        // What the header does not count is not looked at.
        if (window.isFull && mpegFrames >= (info?.mpegFrames ?? 0)) break;
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
