import { BijouError } from '../errors';
import { quantile } from '../measure/statistics';
import { scaled, type Spread } from './spread';

/** What is to be known of an encoded sound. */
export interface LoadedSound {
  codec: string;
  bytes: number;
  frames: number;
  sampleRateHz: number;
  channels: number;
  /** Of decoding, per second of sound. */
  msPerSecond: Spread;
  /** From bytes in memory to the first frames. */
  firstBlockMs: number;
}

/** How it is played. */
export interface LoadSettings {
  /** How many play it at once. */
  voices: number;
  /** Rate of the mix, in Hz, and how many of its frames are made at a time. */
  mixRateHz: number;
  blockFrames: number;
  /** Bytes that are asked of the storage at a time. */
  readBytes: number;
  /** What the storage gives, in Mbit/s. */
  storageMbits: number;
  /** How many times slower the device is than the machine that measured. */
  slower: number;
}

export const usualLoad: LoadSettings = {
  voices: 1,
  mixRateHz: 48_000,
  blockFrames: 1_024,
  readBytes: 65_536,
  storageMbits: 400,
  slower: 1,
};

/** The limits of each setting. */
export const loadLimits: Record<
  keyof LoadSettings,
  { min: number; max: number; isWhole: boolean }
> = {
  voices: { min: 1, max: 1_000_000, isWhole: true },
  mixRateHz: { min: 8_000, max: 192_000, isWhole: true },
  blockFrames: { min: 16, max: 65_536, isWhole: true },
  readBytes: { min: 512, max: 16_777_216, isWhole: true },
  storageMbits: { min: 0.1, max: 100_000, isWhole: false },
  slower: { min: 0.1, max: 100, isWhole: false },
};

/** @throws bad-setting for what lies outside the limits */
export function checkLoad(settings: LoadSettings): LoadSettings {
  for (const [name, { min, max, isWhole }] of Object.entries(loadLimits)) {
    const value = settings[name as keyof LoadSettings];
    if (value >= min && value <= max && (!isWhole || Number.isInteger(value))) continue;
    throw new BijouError(
      'bad-setting',
      `${name} cannot be ${value}.`,
      `Give a ${isWhole ? 'whole ' : ''}number from ${min} to ${max}.`,
      { field: name },
    );
  }
  return settings;
}

/** What a way of loading costs. */
export interface LoadCost {
  residentBytes: number;
  /** Until the first voice can begin. */
  loadSeconds: number;
  /** Of one core, 1 being all of it; decoding alone, without mixing. */
  cpu: Spread;
  readsPerSecond: number;
}

/** One way of loading a sound. */
export interface LoadPolicy {
  id: 'unpacked' | 'packed' | 'streamed';
  name: string;
  says: string;
  cost(sound: LoadedSound, settings: LoadSettings): LoadCost;
  /** How each figure comes about, with the numbers put in by their names. */
  formulas: Record<keyof LoadCost, string>;
}

/** An unpacked sound has 16 bits a sample. */
const SAMPLE_BYTES = 2;
/** Blocks on their way to the mix are floating point. */
const MIXED_BYTES = 4;
const nothing: Spread = { median: 0, low: 0, high: 0 };

/**
 * What a decoder keeps from one block to the next, in bytes: about what usual decoders in C need, by the sizes that
 * their standards give (window overlap, filter bank, reservoir, code books).
 */
const decoderStates: Record<string, (channels: number) => number> = {
  pcm: () => 0,
  float: () => 0,
  'ima-adpcm': (channels) => 2_048 + 4 * channels,
  flac: (channels) => 4_096 * 4 * channels,
  mp3: (channels) => 2_048 + 11_008 * channels,
  vorbis: (channels) => 100_000 + 16_384 * channels,
  opus: (channels) => 10_000 + 8_192 * channels,
  aac: (channels) => 4_096 + 12_288 * channels,
};

function voiceBytes({ codec, channels, sampleRateHz }: LoadedSound, settings: LoadSettings) {
  const state = decoderStates[codec]?.(channels) ?? 0;
  const block = Math.ceil((settings.blockFrames * sampleRateHz) / settings.mixRateHz);
  return state + block * channels * MIXED_BYTES;
}

const secondsOf = ({ frames, sampleRateHz }: LoadedSound) => frames / sampleRateHz;
const readSeconds = (bytes: number, { storageMbits }: LoadSettings) =>
  (bytes * 8) / (storageMbits * 1e6);
const playingCpu = ({ msPerSecond }: LoadedSound, { voices, slower }: LoadSettings) =>
  scaled(msPerSecond, (voices * slower) / 1000);

export const loadPolicies: readonly LoadPolicy[] = [
  {
    id: 'unpacked',
    name: 'Unpacked when loaded',
    says: 'Decoded once, whole; every voice plays the same samples.',
    cost: (sound, settings) => ({
      residentBytes: sound.frames * sound.channels * SAMPLE_BYTES,
      loadSeconds:
        readSeconds(sound.bytes, settings) +
        (secondsOf(sound) * sound.msPerSecond.median * settings.slower) / 1000,
      cpu: nothing,
      readsPerSecond: 0,
    }),
    formulas: {
      residentBytes: 'frames × channels × 2',
      loadSeconds: 'bytes × 8 ÷ storage + seconds × decode cost × slower',
      cpu: 'none: nothing is decoded while it plays',
      readsPerSecond: 'none: all of it is in memory',
    },
  },
  {
    id: 'packed',
    name: 'Kept packed',
    says: 'The file lies in memory; every voice decodes it while it plays.',
    cost: (sound, settings) => ({
      residentBytes: sound.bytes + settings.voices * voiceBytes(sound, settings),
      loadSeconds:
        readSeconds(sound.bytes, settings) + (sound.firstBlockMs * settings.slower) / 1000,
      cpu: playingCpu(sound, settings),
      readsPerSecond: 0,
    }),
    formulas: {
      residentBytes: 'bytes + voices × (decoder + block × channels × 4)',
      loadSeconds: 'bytes × 8 ÷ storage + first block × slower',
      cpu: 'voices × decode cost × slower',
      readsPerSecond: 'none: all of it is in memory',
    },
  },
  {
    id: 'streamed',
    name: 'Streamed from storage',
    says: 'Every voice reads its own pieces of the file and decodes them while it plays.',
    cost: (sound, settings) => {
      const read = Math.min(settings.readBytes, sound.bytes);
      return {
        // One piece is played while the next one is read.
        residentBytes: settings.voices * (2 * read + voiceBytes(sound, settings)),
        loadSeconds: readSeconds(read, settings) + (sound.firstBlockMs * settings.slower) / 1000,
        cpu: playingCpu(sound, settings),
        readsPerSecond: (settings.voices * sound.bytes) / secondsOf(sound) / read,
      };
    },
    formulas: {
      residentBytes: 'voices × (2 × read size + decoder + block × channels × 4)',
      loadSeconds: 'read size × 8 ÷ storage + first block × slower',
      cpu: 'voices × decode cost × slower',
      readsPerSecond: 'voices × bytes ÷ seconds ÷ read size',
    },
  },
];

/** The middle of what several sounds cost, figure by figure. */
export function middleCost(costs: readonly LoadCost[]): LoadCost {
  const middle = (pick: (cost: LoadCost) => number) => quantile(costs.map(pick), 0.5);
  return {
    residentBytes: middle((cost) => cost.residentBytes),
    loadSeconds: middle((cost) => cost.loadSeconds),
    cpu: {
      median: middle(({ cpu }) => cpu.median),
      low: middle(({ cpu }) => cpu.low),
      high: middle(({ cpu }) => cpu.high),
    },
    readsPerSecond: middle((cost) => cost.readsPerSecond),
  };
}

/** How many voices one core decodes at once, on a device so many times slower. */
export function voicesPerCore({ median }: Spread, slower = 1): number {
  return 1000 / (median * slower);
}
