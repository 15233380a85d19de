import { decoder as createDecoder } from '@audio/decode-aac';
import {
  CustomSource,
  EncodedPacketSink,
  Input,
  MP4,
  QTFF,
  type InputAudioTrack,
  Logging,
  LogLevel,
} from 'mediabunny';
import type { ByteSource } from '../../bytes/source';
import { blockFrames, type Block, type PcmStream } from '../../pcm/pcm';
import { ascii } from '../bits';
import {
  damagedFrames,
  damagedHeader,
  damagedSound,
  noSound,
  truncated,
  unknownCodec,
} from '../problems';
import type { ReaderKind, SoundHeader, SoundReader, Warning } from '../types';
import { FrameWindow } from '../window';
import { readEditWindow, type EditWindow } from './boxes';

/** MP4 and its kin with AAC inside; the sound of a video file counts too. */
export const m4aReader: ReaderKind = {
  id: 'm4a',
  name: 'M4A (AAC)',
  detect: (head) => ascii(head, 4, 4) === 'ftyp',
  open: openM4a,
};

// What is wrong with a file is said by us, once, in words.
Logging.level = LogLevel.Silent;

/** Frames of media that one AAC packet holds. */
const PACKET_FRAMES = 1024;
/** Packets decoded at a time. */
const BATCH = 48;

async function openM4a(source: ByteSource): Promise<SoundReader> {
  const window = await readEditWindow(source);
  const track = await soundTrack(source);
  const config = await track.getDecoderConfig().catch(() => null);
  const codec = await track.getCodec();
  if (codec !== 'aac' || !config?.description) {
    throw unknownCodec('MP4', codecName(codec), 'M4A with AAC, or WAV');
  }
  const description = bytesOf(config.description);
  const duration = await track.computeDuration().catch(() => 0);
  const mediaEnd = Math.round(duration * config.sampleRate);
  const frames = window ? Math.min(window.length ?? mediaEnd, mediaEnd) : null;
  if (mediaEnd <= 0 || frames === 0) throw noSound('M4A');
  const warnings: Warning[] = [];
  const header: SoundHeader = {
    container: 'mp4',
    codec: 'aac',
    sampleRateHz: config.sampleRate,
    channels: config.numberOfChannels,
    bitDepth: null,
    frames,
  };
  return {
    header,
    warnings,
    pcm: (startFrame = 0) => decode({ track, description, header, window, warnings, startFrame }),
  };
}

async function soundTrack(source: ByteSource): Promise<InputAudioTrack> {
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

function codecName(codec: string | null): string {
  return (
    { alac: 'Apple Lossless', opus: 'Opus', mp3: 'MP3', flac: 'FLAC' }[codec ?? ''] ??
    'another codec'
  );
}

function bytesOf(source: AllowSharedBufferSource): Uint8Array {
  return ArrayBuffer.isView(source)
    ? new Uint8Array(source.buffer, source.byteOffset, source.byteLength).slice()
    : new Uint8Array(source).slice();
}

interface Job {
  track: InputAudioTrack;
  description: Uint8Array;
  header: SoundHeader;
  window: EditWindow | null;
  warnings: Warning[];
  startFrame: number;
}

function decode({ track, description, header, window, warnings, startFrame }: Job): PcmStream {
  async function* blocks(): AsyncGenerator<Block> {
    const decoder = await createDecoder({ asc: description });
    // The decoder keeps its first packet back, so what it gives begins one packet into the media.
    const sound = new FrameWindow(
      Math.max(0, (window?.start ?? PACKET_FRAMES) - PACKET_FRAMES) + startFrame,
      header.frames === null ? Infinity : header.frames - startFrame,
    );
    let failed = 0;
    try {
      for await (const batch of packetBatches(track, warnings)) {
        const result = decoder.decode(batch) as ReturnType<typeof decoder.decode> & {
          errors?: number;
        };
        failed += result.errors ?? 0;
        if (blockFrames(result.channelData) > 0 && result.sampleRate !== header.sampleRateHz) {
          throw unknownCodec('MP4', 'HE-AAC', 'M4A with AAC-LC, or WAV');
        }
        const block = sound.cut(result.channelData);
        if (block) yield block;
      }
    } finally {
      decoder.free();
    }
    if (sound.decoded === 0) throw damagedSound('M4A');
    if (sound.missing > 0 && failed <= 1 && warnings.length === 0) {
      warnings.push(truncated(`its last ${sound.missing} frames are missing`));
    }
    // The packet that is kept back counts as an error in the decoder's own reckoning.
    if (failed > 1) warnings.push(damagedFrames(failed - 1));
  }
  return {
    rateHz: header.sampleRateHz,
    channelCount: header.channels,
    frames: header.frames === null ? null : header.frames - startFrame,
    gridBits: null,
    blocks: blocks(),
  };
}

/** Packets until the end, or until bytes are missing, which is a warning. */
async function* packetBatches(
  track: InputAudioTrack,
  warnings: Warning[],
): AsyncGenerator<Uint8Array[]> {
  let batch: Uint8Array[] = [];
  let count = 0;
  try {
    for await (const packet of new EncodedPacketSink(track).packets()) {
      batch.push(packet.data);
      count++;
      if (batch.length === BATCH) {
        yield batch;
        batch = [];
      }
    }
  } catch {
    warnings.push(truncated(`only the first ${count} packets of its sound are there`));
  }
  if (batch.length > 0) yield batch;
}
