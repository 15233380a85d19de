import wavefile from 'wavefile';
import { MemorySink, memorySource } from '@/core/bytes/source';
import { convert } from '@/core/convert';
import { openSound, sourceOf } from '@/core/formats/open';
import { writeSound } from '@/core/formats/write';
import { planJoin } from '@/core/join/plan';
import { joined } from '@/core/join/render';
import { probe } from '@/core/measure/probe';
import { collectChannels, pcmFromChannels } from '@/core/pcm/pcm';
import { fromVorbisOrder, maskOf, speakersOf, usualMask } from '@/core/pcm/speakers';
import { streamOf } from '@/core/pcm/source';
import { emptyRecipe } from '@/core/recipe/types';
import { step } from './files';
import { gridNoise, sine } from './signals';

/** Left, right, centre and bass: four channels that are no quadraphony. */
const FRONT_AND_BASS = 0xf;

async function written(channels: Float32Array[], speakerMask: number, writer: string, bits = 16) {
  const sink = new MemorySink();
  const pcm = pcmFromChannels(channels, 48_000, { gridBits: 16 });
  await writeSound({ ...pcm, speakerMask }, writer, { bits }, sink);
  return sink.bytes();
}

const four = () => [1, 2, 3, 4].map((seed) => gridNoise(3_000, 16, seed));

/** The mask in the `fmt ` chunk, as a package by others reads it. */
function maskInside(wav: Uint8Array): number {
  const file = new wavefile.WaveFile(wav);
  return (file.fmt as { dwChannelMask: number }).dwChannelMask;
}

async function converted(bytes: Uint8Array, steps: ReturnType<typeof step>[], writer = 'wav') {
  const sink = new MemorySink();
  const settings = ['wav', 'aiff', 'flac'].includes(writer) ? { bits: 16 } : {};
  const recipe = { version: 1 as const, steps };
  const { warnings } = await convert(memorySource(bytes), { recipe, writer, settings }, sink);
  return { bytes: sink.bytes(), warnings: warnings.map(({ message }) => message) };
}

test('masks and orders agree', () => {
  for (let count = 1; count <= 8; count++) {
    const mask = usualMask(count);
    expect(mask.toString(2).replaceAll('0', '')).toHaveLength(count);
    expect(speakersOf(count, mask)).toEqual(speakersOf(count));
    const order = Array.from({ length: count }, (_, i) => i);
    expect([...fromVorbisOrder(order)].sort()).toEqual(order);
  }
  expect(speakersOf(4, 0x107)).toEqual(['L', 'R', 'C', 'Cb']);
  expect(maskOf(['L', 'R', 'C', 'Cb'])).toBe(0x107);
  expect(speakersOf(2, 0x107)).toEqual(['L', 'R']);
  expect(speakersOf(6, 0x3)).toBeNull();
  const vorbis = ['L', 'C', 'R', 'Ls', 'Rs', 'LFE'];
  expect(fromVorbisOrder(vorbis)).toEqual(['L', 'R', 'C', 'LFE', 'Ls', 'Rs']);
});

test.each([
  [4, FRONT_AND_BASS],
  [6, 0x60f],
  [6, 0x3f],
  [2, 0x30],
  [3, 0x103],
  [8, 0xff],
  [5, 0x2d003],
  [6, 0x3],
])('%i channels for the speakers 0x%s stay theirs through WAV and FLAC', async (count, mask) => {
  const sound = Array.from({ length: count }, (_, c) => gridNoise(2_000, 16, c + 1));
  const wav = await written(sound, mask, 'wav');
  expect(maskInside(wav)).toBe(count > 2 || mask !== usualMask(count) ? mask : 0);
  const flac = await converted(wav, [], 'flac');
  expect(flac.warnings).toEqual([]);
  const back = await converted(flac.bytes, []);
  expect(maskInside(back.bytes)).toBe(maskInside(wav));
  const { facts } = await probe(memorySource(back.bytes));
  expect(facts.speakers).toEqual(speakersOf(count, mask));
});

test('mono is mono: what it states beside that makes no other file and no warning', async () => {
  const plain = await written([gridNoise(900, 16)], 0, 'wav');
  expect(Buffer.compare(await written([gridNoise(900, 16)], 0x1, 'wav'), plain)).toBe(0);
  expect((await converted(plain, [], 'aiff')).warnings).toEqual([]);
});

test('steps that leave the channels alone leave their speakers alone', async () => {
  const wav = await written(four(), FRONT_AND_BASS, 'wav');
  const steps = [
    step('keep', { startFrame: 100, endFrame: 2_900 }),
    step('gain', { gainDb: -3 }),
    step('reverse'),
    step('resample', { rateHz: 44_100 }),
    step('fade-out', { frames: 100, shape: 's' }),
  ];
  expect(maskInside((await converted(wav, steps)).bytes)).toBe(FRONT_AND_BASS);
});

test('a mixdown follows the speakers: the centre on both sides, the bass on none', async () => {
  const silent = new Float32Array(1_000);
  const tone = sine(48_000, 440, 1_000, 0.25);
  const only = (c: number) => [0, 1, 2, 3].map((i) => (i === c ? tone : silent));
  const peaks = async (c: number, mode: string) => {
    const wav = await written(only(c), FRONT_AND_BASS, 'wav', 32);
    const { bytes } = await converted(wav, [step('channels', { mode })]);
    expect(maskInside(bytes)).toBe(0);
    const channels = await collectChannels((await openSound(memorySource(bytes))).pcm());
    return channels.map((channel) => Math.max(...channel.map(Math.abs)));
  };
  const [left, right] = await peaks(2, 'stereo');
  expect(left).toBeGreaterThan(0.05);
  expect(right).toBe(left);
  expect(await peaks(3, 'stereo')).toEqual([0, 0]);
  expect(await peaks(3, 'mix')).toEqual([0]);
  const [l, r] = await peaks(0, 'stereo');
  expect([l! > 0.1, r]).toEqual([true, 0]);
});

test('speakers that no standard mixes down are named, and so is a layout that nobody stated', async () => {
  const mix = [step('channels', { mode: 'stereo' })];
  const heights = await written(four(), 0x5003, 'wav');
  await expect(converted(heights, mix)).rejects.toMatchObject({
    message: expect.stringContaining('Tfl'),
  });
  const nobody = await written(four(), 0x1, 'wav');
  await expect(converted(nobody, mix)).rejects.toMatchObject({ code: 'not-legal' });
});

test.each([
  ['aiff', /AIFF has no place for that its channels are L R C LFE.*take them for L R Lb Rb/],
])('%s says that it cannot state the layout', async (writer, sentence) => {
  const wav = await written(four(), FRONT_AND_BASS, 'wav');
  const { warnings } = await converted(wav, [], writer);
  expect(warnings).toEqual([expect.stringMatching(sentence)]);
  const usual = await written(four(), 0x33, 'wav');
  expect((await converted(usual, [], writer)).warnings).toEqual([]);
});

test('loudness counts the surrounds that are stated, and leaves the bass out', async () => {
  const tone = sine(48_000, 997, 96_000, 0.1);
  const silent = new Float32Array(96_000);
  const loudness = async (mask: number) => {
    const wav = await written([silent, silent, silent, tone], mask, 'wav');
    return (await probe(memorySource(wav))).facts.lufs;
  };
  expect(await loudness(FRONT_AND_BASS)).toBeNull();
  const front = (await loudness(0x107))!;
  expect((await loudness(0x407))! - front).toBeCloseTo(10 * Math.log10(1.41), 2);
});

test('a join keeps a layout that its parts share, and mixes what they do not share', async () => {
  const part = (name: string, speakerMask: number) => ({
    name,
    shape: { rateHz: 48_000, channelCount: 4, frames: 3_000, speakerMask },
    recipe: emptyRecipe,
    bitDepth: 16,
  });
  const join = {
    parts: [
      { soundId: 1, gapSeconds: 0 },
      { soundId: 2, gapSeconds: 0 },
    ],
    overlap: 'mix' as const,
    rateHz: null,
    channelCount: null,
  };
  const alike = planJoin(join, [part('a', FRONT_AND_BASS), part('b', FRONT_AND_BASS)]);
  expect(alike.shape).toMatchObject({ channelCount: 4, speakerMask: FRONT_AND_BASS });
  const reader = await openSound(memorySource(await written(four(), FRONT_AND_BASS, 'wav')));
  const open = async () => ({ source: sourceOf(reader, 3_000), close: async () => undefined });
  const whole = joined(
    alike.placed.map((place) => ({ ...place, open })),
    alike.shape,
    'mix',
  );
  const sink = new MemorySink();
  await writeSound(whole, 'wav', { bits: 32 }, sink);
  expect(maskInside(sink.bytes())).toBe(FRONT_AND_BASS);
  const mixed = planJoin(join, [part('a', FRONT_AND_BASS), part('b', 0x33)]);
  expect(mixed.shape.channelCount).toBe(2);
  expect(mixed.placed.map(({ recipe }) => recipe.steps.length)).toEqual([1, 1]);
});

test('what is read again from the middle has the same speakers', async () => {
  const reader = await openSound(memorySource(await written(four(), FRONT_AND_BASS, 'wav')));
  expect(reader.pcm(500).speakerMask).toBe(FRONT_AND_BASS);
  expect(streamOf(sourceOf(reader, 3_000), 20)).toMatchObject({
    speakerMask: FRONT_AND_BASS,
    frames: 2_980,
  });
});
