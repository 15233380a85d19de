import { Analyser } from '@/core/measure/analyser';
import { LevelMeter } from '@/core/measure/level';
import { LoudnessMeter } from '@/core/measure/loudness';
import { SpectrumMeter } from '@/core/measure/spectrum';
import { TruePeakMeter } from '@/core/measure/truePeak';
import { sliceBlock, type Block } from '@/core/pcm/pcm';
import { ebur128 } from './ebur128';
import { tonesAndNoise } from './signal';
import { best, timesRealTime, type Table } from './types';

const SECONDS = 30;
const RATE = 44_100;
/** What decoders hand out at a time. */
const BLOCK = 16_384;

interface Meter {
  push(block: Block): void;
  result(): unknown;
}

export async function analysisTable(): Promise<Table> {
  const sound = tonesAndNoise(RATE, SECONDS, 2);
  const other = await ebur128();
  const run = (make: () => Meter) =>
    best(() => {
      const meter = make();
      for (let at = 0; at < sound[0]!.length; at += BLOCK) {
        meter.push(sliceBlock(sound, at, at + BLOCK));
      }
      meter.result();
    }, 5);
  const shape = { rateHz: RATE, channelCount: 2, bitDepth: 16 };
  const rows: [string, number][] = [
    ['everything', await run(() => new Analyser(shape))],
    ['of it: peak, RMS, correlation, DC', await run(() => new LevelMeter(2))],
    ['of it: loudness and range', await run(() => new LoudnessMeter(shape))],
    ['of it: true peak', await run(() => new TruePeakMeter(RATE, 2))],
    ['of it: spectrum and bandwidth', await run(() => new SpectrumMeter(RATE, 2))],
    [
      'peer: ebur128-wasm, only loudness and true peak',
      await best(() => {
        other.integrated(sound, RATE);
        other.truePeak(sound, RATE);
      }, 5),
    ],
  ];
  return {
    title: 'Analysis',
    note:
      `All measures of ${SECONDS} seconds of stereo at 44.1 kHz in one pass, one thread, decoding not ` +
      'included. The aim is 60 times real time.',
    columns: ['', 'speed'],
    rows: rows.map(([name, seconds]) => [name, timesRealTime(SECONDS, seconds)]),
  };
}
