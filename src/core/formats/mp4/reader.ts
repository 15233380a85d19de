import type { InputAudioTrack } from 'mediabunny';
import type { ByteSource } from '../../bytes/source';
import { blockFrames, inBlocks, type Block } from '../../pcm/pcm';
import { aacFormat, decodeAac, isSbrConfig, PACKET_FRAMES } from '../aac/decode';
import { alacDecoder } from '../aac/package';
import { ascii, viewOf } from '../bits';
import { sampleKinds, statedBits, type Encoding } from '../pcm/samples';
import {
  damagedHeader,
  damagedSound,
  noSound,
  notFinite,
  truncated,
  unknownCodec,
} from '../problems';
import type { OpenedFile, ReaderKind, StatedHeader, Warning } from '../types';
import { FrameWindow } from '../window';
import { readIndex, type Mp4Index } from './boxes';
import { packetsIn, packetsOf } from './packets';
import { plural } from '../../words';

/** MP4 and its kin; the sound of a video file counts too. */
export const mp4Reader: ReaderKind = {
  id: 'mp4',
  name: 'MP4 (M4A, MOV)',
  codecs: 'AAC-LC, HE-AAC, ALAC, PCM',
  extensions: ['m4a', 'mp4', 'mov', 'm4v', 'm4b'],
  // QuickTime's oldest files begin with their index or their sound.
  detect: (head) => ['ftyp', 'moov', 'wide', 'mdat'].includes(ascii(head, 4, 4)),
  open: openMp4,
};

/** A file with everything that its codecs need to open it. */
interface Mp4File {
  source: ByteSource;
  track: InputAudioTrack;
  index: Mp4Index;
  /** Of the media, priming and padding included. */
  seconds: number;
  warnings: Warning[];
}

async function openMp4(source: ByteSource): Promise<OpenedFile> {
  const index = await readIndex(source);
  const track = await soundTrack(source);
  const seconds = index.seconds ?? (await fragmentSeconds(track, index));
  const file = { source, track, index, seconds, warnings: [] };
  if (index.alacCookie) return openAlac(file, index.alacCookie);
  const codec = await track.getCodec();
  if (codec === 'aac') return openAac(file);
  const encoding = pcmCodecs[codec ?? ''];
  if (encoding) return openPcm(file, encoding);
  throw unknownCodec('MP4', otherCodecs[codec ?? ''] ?? 'another codec', 'M4A with AAC, or WAV');
}

const otherCodecs: Record<string, string> = { opus: 'Opus', mp3: 'MP3', flac: 'FLAC', ac3: 'AC-3' };
const pcmCodecs: Record<string, Encoding> = {
  'pcm-u8': 'u8',
  'pcm-s8': 's8',
  'pcm-s16': 's16le',
  'pcm-s16be': 's16be',
  'pcm-s24': 's24le',
  'pcm-s24be': 's24be',
  'pcm-s32': 's32le',
  'pcm-s32be': 's32be',
  'pcm-f32': 'f32le',
  'pcm-f32be': 'f32be',
  'pcm-f64': 'f64le',
  'pcm-f64be': 'f64be',
  ulaw: 'ulaw',
  alaw: 'alaw',
};

/** The demultiplexer answers the end of what is presented. */
async function fragmentSeconds(track: InputAudioTrack, { window }: Mp4Index): Promise<number> {
  return (await track.computeDuration().catch(() => 0)) + (window?.start ?? 0);
}

async function soundTrack(source: ByteSource): Promise<InputAudioTrack> {
  const { CustomSource, Input, Logging, LogLevel, MP4, QTFF } = await import('mediabunny');
  // What is wrong with a file is said by us, once, in words.
  Logging.level = LogLevel.Silent;
  const input = new Input({
    source: new CustomSource({
      getSize: () => source.size,
      read: async (start, end) => (await source.read(start, end - start)).slice(),
      // Reads ahead of a file's end fail without anyone waiting; the decoding loop reports it.
      handleUnhandledError: () => undefined,
    }),
    formats: [MP4, QTFF],
  });
  const track = await input.getPrimaryAudioTrack().catch(() => {
    throw damagedHeader('The MP4 index cannot be understood');
  });
  if (!track) throw noSound('MP4');
  return track;
}

function bytesOf(source: AllowSharedBufferSource): Uint8Array {
  return ArrayBuffer.isView(source)
    ? new Uint8Array(source.buffer, source.byteOffset, source.byteLength).slice()
    : new Uint8Array(source).slice();
}

/** Which frames of the media are the sound; `frames` is null without an edit list. */
function spanOf({ index: { window }, seconds }: Mp4File, rateHz: number) {
  const mediaFrames = Math.round(seconds * rateHz);
  if (mediaFrames <= 0) throw noSound('MP4');
  if (!window) return { mediaStart: 0, frames: null, mediaFrames };
  const mediaStart = Math.round(window.start * rateHz);
  const stated = window.length === null ? mediaFrames : Math.round(window.length * rateHz);
  // The list counts in units of the whole file, which are coarser than the media's.
  const frames = Math.min(stated, mediaFrames - mediaStart);
  if (frames <= 0) throw noSound('MP4');
  return { mediaStart, frames, mediaFrames };
}

async function openAac(file: Mp4File): Promise<OpenedFile> {
  const { track, warnings, index } = file;
  const packets = (into: Warning[]) => packetsOf(file.source, track, index.tables, into);
  const config = await track.getDecoderConfig().catch(() => null);
  if (!config?.description) throw damagedHeader('The MP4 index does not describe its AAC');
  const description = bytesOf(config.description);
  const beginning: Uint8Array[] = [];
  for await (const packet of packets([])) {
    beginning.push(packet);
    if (beginning.length === 4) break;
  }
  const core = config.sampleRate / (isSbrConfig(description) ? 2 : 1);
  const trial = beginning.length === 1 ? [...beginning, ...beginning] : beginning;
  const format = await aacFormat(description, core, trial);
  if (!format) throw damagedSound('M4A');
  const { mediaStart, frames } = spanOf(file, format.rateHz);
  const perPacket = PACKET_FRAMES * (format.isHe ? 2 : 1);
  const priming = index.window ? mediaStart : perPacket;
  const packed = packetsIn(index.tables) * perPacket;
  const header: StatedHeader = {
    container: 'mp4',
    codec: format.isHe ? 'he-aac' : 'aac',
    sampleRateHz: format.rateHz,
    channels: format.channels,
    bitDepth: null,
    frames,
    tags: index.tags,
    addedFrames: {
      head: priming,
      tail: frames === null ? 0 : Math.max(0, packed - priming - frames),
    },
  };
  return {
    header,
    warnings,
    pcm: (startFrame = 0) => ({
      rateHz: format.rateHz,
      channelCount: format.channels,
      frames: frames === null ? null : frames - startFrame,
      gridBits: null,
      blocks: decodeAac(packets(warnings), format, warnings, {
        mediaStart: priming,
        frames,
        startFrame,
      }),
    }),
  };
}

/** Everything that is decoded packet by packet without a delay: ALAC and PCM. */
function openExact(
  file: Mp4File,
  stated: Omit<StatedHeader, 'container' | 'frames'> & { gridBits: number | null },
  decode: (packets: AsyncIterable<Uint8Array>) => AsyncGenerator<Block>,
): OpenedFile {
  const { gridBits, ...known } = stated;
  const { mediaStart, frames, mediaFrames } = spanOf(file, known.sampleRateHz);
  const length = frames ?? mediaFrames;
  const { source, track, warnings, index } = file;
  async function* blocks(startFrame: number): AsyncGenerator<Block> {
    const window = new FrameWindow(mediaStart + startFrame, length - startFrame);
    for await (const block of decode(packetsOf(source, track, index.tables, warnings))) {
      const kept = window.cut(block);
      if (kept) yield* inBlocks(kept);
    }
    if (window.decoded === 0) throw damagedSound('MP4');
    if (window.missing > 0 && warnings.length === 0) {
      warnings.push(truncated(`its end is missing: ${plural(window.missing, 'frame')}`));
    }
  }
  return {
    header: { container: 'mp4', frames: length, tags: file.index.tags, ...known },
    warnings,
    pcm: (startFrame = 0) => ({
      rateHz: known.sampleRateHz,
      channelCount: known.channels,
      frames: length - startFrame,
      gridBits,
      blocks: blocks(startFrame),
    }),
  };
}

/**
 * How many frames a packet of ALAC says that it holds; 0 where it says nothing. Behind the tag of its first
 * element (3 bits), its number (4) and 12 that are not used a bit says whether a length of 32 bits follows
 * three more. The decoder believes it, and would go on for billions.
 */
function alacFrames(packet: Uint8Array): number {
  const isStated = packet.length >= 7 && (packet[2]! & 0x10) !== 0;
  if (!isStated) return 0;
  return ((viewOf(packet).getUint32(2) << 7) | (packet[6]! >> 1)) >>> 0;
}

function openAlac(file: Mp4File, cookie: Uint8Array): OpenedFile {
  const [bits, channels] = [cookie[5]!, cookie[9]!];
  const stated = {
    codec: 'alac',
    sampleRateHz: viewOf(cookie).getUint32(20),
    channels,
    bitDepth: bits,
    gridBits: bits <= 24 ? bits : null,
  };
  return openExact(file, stated, async function* (packets) {
    const decoder = await alacDecoder(cookie);
    try {
      for await (const packet of packets) {
        if (alacFrames(packet) > viewOf(cookie).getUint32(0)) throw damagedSound('MP4');
        const { channelData } = decoder.decode(packet);
        // A damaged packet may hold fewer channels than it should.
        if (channelData.some((channel) => channel.length !== blockFrames(channelData))) {
          throw damagedSound('MP4');
        }
        yield channelData;
      }
    } finally {
      decoder.free();
    }
  });
}

async function openPcm(file: Mp4File, encoding: Encoding): Promise<OpenedFile> {
  const sample = sampleKinds[encoding];
  const channels = await file.track.getNumberOfChannels();
  const stated = {
    codec: sample.codec,
    sampleRateHz: await file.track.getSampleRate(),
    channels,
    bitDepth: statedBits(sample),
    gridBits: sample.codec === 'float' || sample.bits > 24 ? null : sample.bits,
  };
  return openExact(file, stated, async function* (packets) {
    let lost = 0;
    for await (const bytes of packets) {
      const frames = Math.floor(bytes.length / sample.bytes / channels);
      yield sample.read(bytes, frames, channels, (samples) => (lost += samples));
    }
    if (lost > 0) file.warnings.push(notFinite(lost));
  });
}
