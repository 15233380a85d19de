import libsamplerate from '@alexanderolsen/libsamplerate-js';
import { resampled } from '@/core/dsp/resample';
import { collectChannels } from '@/core/pcm/pcm';
import { sourceFromChannels, streamOf } from '@/core/pcm/source';
import { sine, tonesAndNoise } from './signal';
import { best, timesRealTime, type Table } from './types';

// The peer is CommonJS, which has no named exports here.
const { create, ConverterType } = libsamplerate;

const [FROM, TO] = [48_000, 44_100];

/** Resamples one channel. */
type Resample = (signal: Float32Array, from: number, to: number) => Promise<Float32Array>;

const ours: Resample = async (signal, from, to) =>
  (await collectChannels(streamOf(resampled(sourceFromChannels([signal], from), to))))[0]!;

const peer: Resample = async (signal, from, to) => {
  const converter = await create(1, from, to, {
    converterType: ConverterType.SRC_SINC_BEST_QUALITY,
  });
  const out = converter.full(signal).slice();
  converter.destroy();
  return out;
};

const db = (x: number) => 20 * Math.log10(x);

function rms(signal: Float32Array): number {
  return Math.sqrt(signal.reduce((sum, x) => sum + x * x, 0) / signal.length);
}

/** RMS of what differs from the ideal sine, relative to it, away from the ends. */
async function errorDb(run: Resample): Promise<number> {
  const out = await run(sine(FROM, 997, 2), FROM, TO);
  const ideal = sine(TO, 997, 2);
  const middle = out.subarray(8_000, -8_000).map((x, i) => x - ideal[i + 8_000]!);
  return db(rms(middle) / rms(ideal));
}

async function flatnessDb(run: Resample): Promise<number> {
  let worst = 0;
  for (let hz = 100; hz <= 20_000; hz += 995) {
    const out = await run(sine(FROM, hz, 1), FROM, TO);
    worst = Math.max(
      worst,
      Math.abs(db(rms(out.subarray(8_000, -8_000)) / rms(sine(FROM, hz, 1)))),
    );
  }
  return worst;
}

async function aliasDb(run: Resample): Promise<number> {
  let worst = -Infinity;
  for (const hz of [22_100, 22_500, 23_000, 23_900]) {
    const out = await run(sine(FROM, hz, 1), FROM, TO);
    worst = Math.max(worst, db(rms(out.subarray(8_000, -8_000)) / rms(sine(FROM, hz, 1))));
  }
  return worst;
}

async function speed(run: (channels: Float32Array[]) => Promise<unknown>): Promise<string> {
  const seconds = 10;
  const signal = tonesAndNoise(FROM, seconds, 2);
  await run(signal);
  return timesRealTime(seconds, await best(() => run(signal)));
}

export async function resamplerTable(): Promise<Table> {
  const interleave = ([left, right]: Float32Array[]) => {
    const both = new Float32Array(left!.length * 2);
    for (let i = 0; i < left!.length; i++) {
      both[i * 2] = left![i]!;
      both[i * 2 + 1] = right![i]!;
    }
    return both;
  };
  const ourSpeed = await speed((channels) =>
    collectChannels(streamOf(resampled(sourceFromChannels(channels, FROM), TO))),
  );
  const peerSpeed = await speed(async (channels) => {
    const converter = await create(2, FROM, TO, {
      converterType: ConverterType.SRC_SINC_BEST_QUALITY,
    });
    converter.full(interleave(channels));
    converter.destroy();
  });
  const frames = (await ours(sine(FROM, 997, 2), FROM, TO)).length;
  const row = async (name: string, run: Resample, fast: string) => [
    name,
    (await errorDb(run)).toFixed(1),
    `±${(await flatnessDb(run)).toFixed(4)}`,
    (await aliasDb(run)).toFixed(1),
    fast,
  ];
  return {
    title: 'Resampler, 48 → 44.1 kHz',
    note:
      `The bars are: error at most −110 dB, flat ±0.05 dB, aliases at most −100 dB, ten times the peer's speed. ` +
      `Two seconds come out as ${frames} frames (exact: ${TO * 2}). Speed is for stereo, one thread. ` +
      'The peer is the WASM libsamplerate, "best" converter, in the same run.',
    columns: [
      '',
      'error at 997 Hz, −6 dBFS (dB)',
      'flatness to 20 kHz (dB)',
      'worst alias above 22.05 kHz (dB)',
      'speed',
    ],
    rows: [await row('Bijou', ours, ourSpeed), await row('peer', peer, peerSpeed)],
  };
}
