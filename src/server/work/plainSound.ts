import { LRUCache } from 'lru-cache';
import type { ByteSource } from '@/core/bytes/source';
import { isPlainWav, openSound, sourceOf } from '@/core/formats/open';
import type { RawDescription } from '@/core/formats/raw/reader';
import type { SoundReader } from '@/core/formats/types';
import { collectChannels } from '@/core/pcm/pcm';
import { sourceFromChannels, type PcmSource } from '@/core/pcm/source';

/** What a short sound takes in memory at most, once it is decoded: some twenty seconds of stereo. */
const SHORT_BYTES = 8_000_000;
/** What short sounds take together. */
const MOST_BYTES = 64_000_000;

const kept = new LRUCache<string, PcmSource>({
  maxSize: MOST_BYTES,
  sizeCalculation: (sound) => Math.max(1, bytesOf(sound)),
});
const pending = new Map<string, Promise<PcmSource>>();

function bytesOf({ frames, channelCount }: Pick<PcmSource, 'frames' | 'channelCount'>): number {
  return frames * channelCount * Float32Array.BYTES_PER_ELEMENT;
}

/** What has to be known of a file to say whether a copy of it is needed. */
interface Shape {
  container: string;
  codec: string;
  channels: number;
  frames: number | null;
}

/**
 * Whether a sound is read from any frame on where it lies: as plain WAV, or so short that it is soon decoded into memory.
 * Of any other a copy has to lie on the disk.
 */
export function isPlain({ container, codec, channels, frames }: Shape): boolean {
  if (isPlainWav({ container, codec })) return true;
  return frames !== null && bytesOf({ frames, channelCount: channels }) <= SHORT_BYTES;
}

/**
 * A sound that can be read from any frame on: plain WAV where it lies, a short sound in a codec out of memory.
 * @param path Of a file that never changes.
 */
export async function plainSound(
  file: ByteSource,
  { path, raw, frames }: { path: string; raw: RawDescription | null; frames: number | null },
): Promise<PcmSource> {
  const key = JSON.stringify([path, raw]);
  const known = kept.get(key);
  if (known) return known;
  const reader = await openSound(file, raw ?? undefined);
  const { header } = reader;
  const isHere = isPlain({ ...header, frames: frames ?? header.frames });
  if (isPlainWav(header) || !isHere) {
    return sourceOf(reader, frames ?? reader.header.frames ?? 0);
  }
  const decoding = pending.get(key) ?? decoded(reader).finally(() => pending.delete(key));
  pending.set(key, decoding);
  const sound = await decoding;
  kept.set(key, sound);
  return sound;
}

async function decoded(reader: SoundReader): Promise<PcmSource> {
  const pcm = reader.pcm();
  const channels = await collectChannels(pcm);
  const frames = channels[0]?.length ?? 0;
  const { rateHz, channelCount, gridBits, speakerMask, loop } = sourceOf(reader, frames);
  const { from } = sourceFromChannels(channels, rateHz);
  return { rateHz, channelCount, frames, gridBits, speakerMask, loop, from };
}
