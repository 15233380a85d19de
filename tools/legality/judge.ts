import { MemorySink } from '@/core/bytes/source';
import { writeSound } from '@/core/formats/write';
import { pcmFromChannels } from '@/core/pcm/pcm';
import { headerFaults } from '../headers';
import { tonesAndNoise } from '../bench/signal';
import type { Combination } from './combinations';
import type { ForeignDecoders } from './foreign';

/** What strangers found in one written file. */
export interface Judgement {
  faults: string[];
  bytes: number;
  /** Level of what is wrong with it against the sound itself, in dB; null where nobody else could decode it. */
  errorDb: number | null;
}

const sounds = new Map<string, Float32Array[]>();

/** Music that is much like noise: what codecs find hardest. */
function soundFor(rateHz: number, channels: number, frames: number): Float32Array[] {
  const key = `${rateHz} ${channels} ${frames}`;
  const found = sounds.get(key);
  if (found) return found;
  const seconds = Math.ceil(frames / rateHz);
  const made = tonesAndNoise(rateHz, seconds, channels).map((channel) => channel.slice(0, frames));
  sounds.clear();
  sounds.set(key, made);
  return made;
}

/**
 * Frames by which strangers may come out short or long: the browser's Vorbis drops a last partial block, its
 * edit lists count whole microseconds, which some of its versions round down (found with Chromium 150), and the
 * package for IMA ADPCM plays what fills the last block up.
 */
const STRANGE: Record<string, { short: number; long: number }> = {
  vorbis: { short: 2_048, long: 0 },
  aac: { short: 1, long: 0 },
  'ima-adpcm': { short: 0, long: 4_088 },
};

/** Writes a sound in one way, and has its headers checked and its samples decoded by others. */
export async function judged(
  combination: Combination,
  frames: number,
  decoders: ForeignDecoders,
): Promise<Judgement> {
  const { writer, rateHz, channels, settings } = combination;
  const sound = soundFor(rateHz, channels, frames);
  const sink = new MemorySink();
  await writeSound(pcmFromChannels(sound, rateHz), writer.id, settings, sink);
  const bytes = sink.bytes();
  const faults = headerFaults(writer.container, bytes);
  const decoded = await decoders
    .decode(writer.container, writer.codec, bytes, rateHz)
    .catch((error: unknown) => {
      faults.push(`it cannot be decoded: ${String(error).split('\n')[0]}`);
      return null;
    });
  if (!decoded) return { faults, bytes: bytes.length, errorDb: null };
  const found = decoded[0]?.length ?? 0;
  const { short, long } = STRANGE[writer.codec] ?? { short: 0, long: 0 };
  if (found < frames - short || found > frames + long) {
    faults.push(`${found} frames came back for ${frames}`);
  }
  if (decoded.length !== channels) faults.push(`${decoded.length} channels came back`);
  return { faults, bytes: bytes.length, errorDb: errorOf(decoded, sound) };
}

/** Both ends are left out: what codecs make of an edge is no measure. */
function errorOf(found: readonly Float32Array[], sound: readonly Float32Array[]): number {
  let difference = 0;
  let power = 0;
  sound.forEach((channel, c) => {
    const other = found[c];
    if (!other) return;
    const end = Math.min(channel.length, other.length);
    for (let i = Math.floor(end / 8); i < (end * 7) / 8; i++) {
      difference += (other[i]! - channel[i]!) ** 2;
      power += channel[i]! ** 2;
    }
  });
  return 10 * Math.log10(difference / power);
}
