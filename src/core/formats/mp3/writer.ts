import * as yup from 'yup';
import type { ByteSink } from '../../bytes/source';
import type { Marks } from '../../marks';
import { blockFrames, type Block, type PcmStream } from '../../pcm/pcm';
import { leadIn, leadOut } from '../around';
import { noSound } from '../problems';
import { closest } from '../rates';
import { writeId3v2 } from '../tags/id3';
import type { WriterKind, WriteResult } from '../types';
import { withoutFetch } from '../withoutFetch';
import { FrameSplitter, KBPS_1, KBPS_2, readFrameHeader } from './frame';
import { crc16, emptyInfoFrame, fillInfoFrame } from './infoFrame';

/** Either a constant bit rate or a VBR quality (0 best … 9 smallest); 192 kbit/s without both. */
export interface Mp3Settings {
  kbps?: number | undefined;
  quality?: number | undefined;
}

const ENCODER_DELAY = 576;
/** What is encoded of a loop's other end beyond each of its ends: a frame of the longest kind. */
const LOOP_LEAD_FRAMES = 1_152;
/**
 * At a constant bit rate the encoder has no bits put by when it begins, and breaks what begins at once. It saves some in
 * silence; of several lengths this one left the fewest breaks in real sounds.
 */
const CONSTANT_LEAD_FRAMES = 960;

const USUAL_KBPS = 192;
/** Bit rates that the format has and the encoder has not. */
const NOT_ENCODED: readonly number[] = [56, 144];
/** What stereo at 44.1 kHz usually comes to, by quality from 0. */
const VARIABLE_KBPS = [245, 225, 190, 175, 165, 130, 115, 100, 85, 65];

export const mp3Writer: WriterKind<Mp3Settings> = {
  id: 'mp3',
  name: 'MP3',
  format: 'mp3',
  container: 'mp3',
  codec: 'mp3',
  extension: 'mp3',
  mimeType: 'audio/mpeg',
  version: 'lame-3.100-bijou-5',
  legal: {
    rates: [8_000, 11_025, 12_000, 16_000, 22_050, 24_000, 32_000, 44_100, 48_000],
    channels: [1, 2],
    depths: null,
  },
  carries: { tags: true, loop: false, markers: false, speakers: false },
  reach: LOOP_LEAD_FRAMES,
  range: 'CBR 8 to 320 kbit/s, by rate; VBR quality 0 (best) to 9 (small)',
  dials: [
    { name: 'kbps', values: encodedKbps([...new Set([...KBPS_2, ...KBPS_1])]), usual: USUAL_KBPS },
    {
      name: 'quality',
      values: [0, 1, 2, 3, 4, 5, 6, 7, 8, 9],
      usual: 2,
      says: { 0: 'best', 9: 'small' },
    },
  ],
  usualBytes(settings, rateHz, channels) {
    const kbps = constantKbps(settings) ?? VARIABLE_KBPS[Math.round(settings.quality ?? 0)]!;
    const share = Math.min(1, rateHz / 44_100) * (channels === 1 ? 0.6 : 1);
    return [kbps * share * 125 * 0.4, kbps * share * 125 * 1.3];
  },
  settings: yup
    .object({
      kbps: yup.number().integer(),
      quality: yup.number().min(0).max(9),
    })
    .test(
      'one-of',
      'Give either a bit rate or a quality for MP3, not both.',
      ({ kbps, quality }) => kbps === undefined || quality === undefined,
    ),
  refuses(settings, rateHz) {
    const kbps = constantKbps(settings);
    const legal = legalKbps(rateHz);
    return kbps === undefined || legal.includes(kbps)
      ? null
      : `MP3 at ${rateHz} Hz has no bit rate of ${kbps} kbit/s; it has ${legal.join(', ')}.`;
  },
  nearest(settings, rateHz) {
    const kbps = constantKbps(settings);
    if (kbps === undefined) return settings;
    return { ...settings, kbps: closest(legalKbps(rateHz), kbps) };
  },
  soundBytes(frames, settings, rateHz) {
    const kbps = constantKbps(settings);
    return kbps === undefined ? null : constantBytes(frames, kbps, rateHz);
  },
  describe: (settings) => {
    const kbps = constantKbps(settings);
    return kbps === undefined ? `variable bit rate, quality ${settings.quality}` : `${kbps} kbit/s`;
  },
  write: writeMp3,
};

function constantKbps({ kbps, quality }: Mp3Settings): number | undefined {
  return kbps ?? (quality === undefined ? USUAL_KBPS : undefined);
}

/** Constant bit rates for a sample rate. Those of MPEG-2.5 end at 64 kbit/s in what decoders must play. */
export function legalKbps(rateHz: number): readonly number[] {
  const table = rateHz >= 32_000 ? KBPS_1 : KBPS_2;
  const most = rateHz >= 16_000 ? Infinity : 64;
  return encodedKbps(table).filter((kbps) => kbps <= most);
}

function encodedKbps(table: readonly number[]): readonly number[] {
  return table.filter((kbps) => !NOT_ENCODED.includes(kbps)).sort((a, b) => a - b);
}

/**
 * What an encoder with a constant bit rate gives for so many frames of sound. MPEG frames hold whole bytes: some
 * are a byte longer, so that they come to the bit rate together.
 */
function constantBytes(frames: number, kbps: number, rateHz: number): number {
  const [perFrame, delayFrames] = rateHz >= 32_000 ? [1152, 1] : [576, 2];
  // More than the sound fills: the encoder's delay stands in front. The first one is never longer.
  const mpegFrames = Math.ceil((frames + CONSTANT_LEAD_FRAMES) / perFrame) + delayFrames;
  const bits = (perFrame / 8) * kbps * 1000;
  return (
    mpegFrames * Math.floor(bits / rateHz) +
    Math.ceil(((mpegFrames - 1) * (bits % rateHz)) / rateHz)
  );
}

/**
 * The encoder turns the level down by itself at low constant bit rates (measured: −0.45 dB up to
 * 160 kbit/s). What goes in is raised by as much, so that levels come out as they went in.
 */
function encoderGain(kbps: number | undefined, rateHz: number): number {
  if (kbps === undefined) return 1;
  if (rateHz < 32_000 || kbps <= 160) return 0.95;
  return { 192: 0.97, 224: 0.98 }[kbps] ?? 1;
}

async function writeMp3(
  pcm: PcmStream,
  sink: ByteSink,
  settings: Mp3Settings,
  { tags }: Marks,
): Promise<WriteResult> {
  const { createMp3Encoder } = await import('wasm-media-encoders');
  const encoder = await withoutFetch(createMp3Encoder);
  const { quality } = settings;
  const kbps = constantKbps(settings);
  encoder.configure({
    channels: pcm.channelCount as 1 | 2,
    sampleRate: pcm.rateHz,
    outputSampleRate: pcm.rateHz as 44_100,
    ...(kbps === undefined ? { vbrQuality: quality ?? 4 } : { bitrate: kbps as 128 }),
  });
  const layout = new StreamLayout(sink, writeId3v2(tags));
  const gain = 1 / encoderGain(kbps, pcm.rateHz);
  let framesIn = 0;
  // The encoder hands out its own buffer again and again: the layout copies before the next call.
  const give = async (block: Block) => {
    if (blockFrames(block) === 0) return;
    await layout.push(encoder.encode(gain === 1 ? block : scaled(block, gain)));
  };
  const lead = leadFrames(pcm, kbps);
  await give(leadIn(pcm, lead));
  for await (const block of pcm.blocks) {
    framesIn += blockFrames(block);
    await give(block);
  }
  if (framesIn === 0) throw noSound('MP3');
  await give(leadOut(pcm, LOOP_LEAD_FRAMES));
  await layout.push(encoder.finalize());
  await layout.finish(kbps === undefined, ENCODER_DELAY + lead, framesIn);
  return { framesIn, clippedSamples: 0 };
}

/** What is encoded in front of a sound, and left out again by its delay header. */
function leadFrames({ around }: PcmStream, kbps: number | undefined): number {
  if (blockFrames(around?.before ?? []) > 0) return LOOP_LEAD_FRAMES;
  return kbps === undefined ? 0 : CONSTANT_LEAD_FRAMES;
}

function scaled(block: Block, gain: number): Block {
  return block.map((channel) => {
    const out = new Float32Array(channel.length);
    for (let i = 0; i < out.length; i++) out[i] = channel[i]! * gain;
    return out;
  });
}

/** Writes the encoded stream behind a delay header and learns what that header has to say. */
class StreamLayout {
  private readonly splitter = new FrameSplitter();
  private info: Uint8Array | null = null;
  private readonly ends: number[] = [];
  private soundBytes = 0;
  private soundCrc = 0;
  private samplesPerFrame = 1152;
  private firstKbps = 0;

  constructor(
    private readonly sink: ByteSink,
    private readonly tag: Uint8Array,
  ) {}

  async push(bytes: Uint8Array): Promise<void> {
    for (const frame of this.splitter.push(bytes)) {
      if (!this.info) await this.begin(frame);
      this.soundBytes += frame.length;
      this.soundCrc = crc16(frame, this.soundCrc);
      this.ends.push(this.soundBytes);
      await this.sink.write(frame);
    }
  }

  private async begin(frame: Uint8Array): Promise<void> {
    const header = readFrameHeader(frame);
    this.samplesPerFrame = header?.samples ?? 1152;
    this.firstKbps = header?.kbps ?? 0;
    this.info = emptyInfoFrame(frame);
    if (this.tag.length > 0) await this.sink.write(this.tag);
    await this.sink.write(this.info);
  }

  async finish(variable: boolean, delay: number, framesIn: number): Promise<void> {
    if (!this.info) throw noSound('MP3');
    const mpegFrames = this.ends.length;
    const total = this.info.length + this.soundBytes;
    const infoBytes = this.info.length;
    fillInfoFrame(this.info, {
      variable,
      mpegFrames,
      soundBytes: this.soundBytes,
      soundCrc: this.soundCrc,
      delay,
      padding: Math.max(0, Math.min(0xfff, mpegFrames * this.samplesPerFrame - delay - framesIn)),
      kbps: this.firstKbps,
      seekTable: Uint8Array.from({ length: 100 }, (_, percent) => {
        const frame = Math.floor((percent / 100) * mpegFrames);
        const before = frame === 0 ? 0 : this.ends[frame - 1]!;
        return Math.min(255, Math.floor(((infoBytes + before) / total) * 256));
      }),
    });
    await this.sink.write(this.info, this.tag.length);
  }
}
