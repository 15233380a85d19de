import { writers } from '@/core/formats';
import { legalityRefusal } from '@/core/formats/legality';
import { legalKbps } from '@/core/formats/mp3/writer';
import { isSpan } from '@/core/formats/rates';
import type { WriterKind } from '@/core/formats/types';

/** One legal way of writing a sound. */
export interface Combination {
  writer: WriterKind;
  rateHz: number;
  channels: number;
  settings: object;
}

/** Rates for formats that hold any: usual ones, odd ones, and both ends. */
const ANY_RATE = [
  1_000, 4_000, 8_000, 11_000, 22_100, 37_800, 44_100, 48_000, 50_000, 65_536, 88_201, 96_000,
  200_000, 655_360,
];

/** Some of them, for what must be quick. */
const FEW_RATES = [4_000, 11_000, 37_800, 50_000, 88_201];

const numbers = (from: number, to: number, by = 1) =>
  Array.from({ length: Math.floor((to - from) / by) + 1 }, (_, i) => from + i * by);

type Grid = (rateHz: number, channels: number) => object[];

const OPUS_KBPS = [6, 8, 12, 16, 20, 24, 32, 48, 64, 96, 128, 160, 192, 256];
const AAC_KBPS = [
  16, 24, 32, 40, 48, 64, 80, 96, 112, 128, 160, 192, 224, 256, 288, 320, 384, 448, 512,
];

const opus: Grid = () => OPUS_KBPS.map((kbps) => ({ kbps }));

/** Every setting that means something, by writer. */
const grids: Record<string, Grid> = {
  wav: () => [8, 16, 24, 32].map((bits) => ({ bits })),
  'wav-ima-adpcm': () => [{}],
  aiff: () => [8, 16, 24].map((bits) => ({ bits })),
  flac: () => [8, 16, 24].flatMap((bits) => numbers(0, 8).map((level) => ({ bits, level }))),
  mp3: (rateHz) => [
    ...legalKbps(rateHz).map((kbps) => ({ kbps })),
    ...numbers(0, 9).map((quality) => ({ quality })),
  ],
  ogg: () => numbers(-1, 10).map((quality) => ({ quality })),
  'ogg-opus': opus,
  webm: opus,
  m4a: (rateHz, channels) =>
    AAC_KBPS.filter((kbps) => !aac.refuses?.({ kbps }, rateHz, channels)).map((kbps) => ({ kbps })),
  raw: () => ['u8', 's8', 's16le'].map((encoding) => ({ encoding })),
  c: () => ['u8', 's8', 's16le'].map((encoding) => ({ encoding })),
};

const aac = writers.find(({ id }) => id === 'm4a')!;

/** Every legal combination of format, rate, channels and settings; with `few`, the ends and the middle of each. */
export function* combinations(few = false): Generator<Combination> {
  for (const writer of writers) {
    const { rates, channels: counts } = writer.legal;
    const some = <T>(list: readonly T[]) =>
      few ? [...new Set([list[0]!, list[list.length >> 1]!, list.at(-1)!])] : list;
    const isAny = isSpan(rates);
    for (const rateHz of isAny ? (few ? FEW_RATES : ANY_RATE) : rates) {
      for (const channels of some(counts)) {
        if (legalityRefusal(writer, rateHz, channels)) continue;
        // Where every rate is legal, many channels are tried at one.
        if (isAny && !few && channels > 2 && rateHz !== 48_000) continue;
        for (const settings of some(grids[writer.id]!(rateHz, channels))) {
          yield { writer, rateHz, channels, settings };
        }
      }
    }
  }
}

export function nameOf({ writer, rateHz, channels, settings }: Combination): string {
  return `${writer.id} ${rateHz} Hz ${channels} ch ${JSON.stringify(settings)}`;
}
