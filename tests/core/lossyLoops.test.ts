import { MemorySink, memorySource } from '@/core/bytes/source';
import { convert } from '@/core/convert';
import { noMarks } from '@/core/marks';
import { collectChannels, pcmFromChannels } from '@/core/pcm/pcm';
import { openSound } from '@/core/formats/open';
import { estimateBytes } from '@/core/oneOff/estimate';
import { sourceFromChannels } from '@/core/pcm/source';
import { emptyRecipe } from '@/core/recipe/types';
import { written } from './files';

/**
 * What codecs make of a loop errs at its seam no more than elsewhere, and a sound that begins at once is not broken
 * there. Held against the samples that went in.
 */

const db = (x: number) => 10 * Math.log10(x + 1e-20);

/** Whole periods, so that any stretch of it is like any other. */
const tones = (length: number, ...periods: number[]) =>
  Float32Array.from({ length }, (_, i) =>
    periods.reduce(
      (sum, p, n) => sum + (0.3 / (n + 1)) * Math.cos((2 * Math.PI * p * i) / length),
      0,
    ),
  );

/** Mean square of the error over a window of 256 frames that may run over the seam. */
function errors(decoded: Float32Array, sound: Float32Array, from: number): number {
  const { length } = sound;
  let sum = 0;
  for (let k = from; k < from + 256; k++) {
    const i = ((k % length) + length) % length;
    sum += (decoded[i]! - sound[i]!) ** 2;
  }
  return sum / 256;
}

async function throughCodec(
  sound: Float32Array,
  rateHz: number,
  writer: string,
  settings: object,
  isLoop: boolean,
) {
  const loop = isLoop ? { startFrame: 0, endFrame: sound.length } : null;
  const wav = await written(pcmFromChannels([sound], rateHz), 'wav', { bits: 32 }, undefined, {
    ...noMarks,
    loop,
  });
  const sink = new MemorySink();
  await convert(memorySource(wav), { recipe: emptyRecipe, writer, settings }, sink);
  const [decoded] = await collectChannels((await openSound(memorySource(sink.bytes()))).pcm());
  expect(decoded!.length).toBe(sound.length);
  return decoded!;
}

const forms: [writer: string, settings: object, rateHz: number][] = [
  ['ogg', { quality: 5 }, 44_100],
  ['ogg', { quality: 0 }, 44_100],
  ['ogg', { quality: 3 }, 11_025],
  ['ogg-opus', { kbps: 96 }, 48_000],
  ['webm', { kbps: 64 }, 48_000],
  ['m4a', { kbps: 128 }, 44_100],
  ['m4a', { kbps: 64 }, 44_100],
  ['mp3', { kbps: 128 }, 44_100],
  ['mp3', { quality: 4 }, 22_050],
  ['wav-ima-adpcm', {}, 44_100],
];

test.each(forms)('%s %j at %i Hz errs at the seam as it does elsewhere', async (...form) => {
  const [writer, settings, rateHz] = form;
  const length = rateHz + 1_234;
  const sound = tones(length, Math.round(length / 48), Math.round(length / 401));
  const decoded = await throughCodec(sound, rateHz, writer, settings, true);
  let most = 0;
  for (let at = 4_096; at + 4_352 < length; at += 64) {
    most = Math.max(most, errors(decoded, sound, at));
  }
  for (let at = -2_048; at <= 2_048; at += 64) {
    expect(db(errors(decoded, sound, at))).toBeLessThan(db(most) + 1);
  }
});

test('a loop that is shorter than what the encoder looks at goes round as well', async () => {
  const sound = tones(1_500, 20);
  for (const [writer, settings, rateHz] of forms) {
    const decoded = await throughCodec(sound, rateHz, writer, settings, true);
    const own = [...sound].reduce((sum, x) => sum + x * x, 0) / sound.length;
    for (let at = -256; at <= 0; at += 32) {
      expect(db(errors(decoded, sound, at) / own)).toBeLessThan(-18);
    }
  }
});

test.each([
  ['m4a', { kbps: 128 }, 44_100],
  ['m4a', { kbps: 48 }, 44_100],
  ['m4a', { kbps: 64 }, 22_050],
] as const)('%s %j at %i Hz keeps what begins at once', async (writer, settings, rateHz) => {
  const sound = tones(rateHz, Math.round(rateHz / 48), Math.round(rateHz / 401));
  const decoded = await throughCodec(sound, rateHz, writer, settings, false);
  // The same behind silence is what the codec can do.
  const behind = new Float32Array(rateHz + 8_192);
  behind.set(sound, 8_192);
  const later = (await throughCodec(behind, rateHz, writer, settings, false)).subarray(8_192);
  for (let at = 0; at < 4_096; at += 128) {
    const [here, there] = [errors(decoded, sound, at), errors(later, sound, at)];
    expect(db(here)).toBeLessThan(Math.max(db(there) + 8, -34));
  }
});

test('IMA ADPCM that begins in the middle of a swing is right from its first frames on', async () => {
  const sound = tones(44_100, 1_000);
  const decoded = await throughCodec(sound, 44_100, 'wav-ima-adpcm', {}, false);
  let [first, later] = [0, 0];
  for (let i = 0; i < 12; i++) first = Math.max(first, Math.abs(decoded[i]! - sound[i]!));
  for (let i = 2_000; i < 40_000; i++) later = Math.max(later, Math.abs(decoded[i]! - sound[i]!));
  expect(first).toBeLessThan(later * 1.1);
});

test('what a looped file will weigh is known to the byte where it is encoded whole', async () => {
  const sound = tones(30_000, 400);
  const loop = { startFrame: 0, endFrame: sound.length };
  for (const [writer, settings, rateHz] of forms) {
    const source = { ...sourceFromChannels([sound], rateHz), loop };
    const { bytes, isExact } = await estimateBytes(source, writer, settings, {
      marks: { ...noMarks, loop },
    });
    const wav = await written(pcmFromChannels([sound], rateHz), 'wav', { bits: 32 }, undefined, {
      ...noMarks,
      loop,
    });
    const sink = new MemorySink();
    await convert(memorySource(wav), { recipe: emptyRecipe, writer, settings }, sink);
    expect([writer, bytes, isExact]).toEqual([writer, sink.bytes().length, true]);
  }
});
