import wavefile from 'wavefile';
import { MemorySink, memorySource } from '@/core/bytes/source';
import { convert } from '@/core/convert';
import { noMarks } from '@/core/marks';
import { marksAfter, shapeAfter } from '@/core/recipe/recipe';
import type { Recipe } from '@/core/recipe/types';
import { encode } from './files';
import { noise } from './signals';

describe('a step that marks a loop', () => {
  const step = (kind: string, params: Record<string, unknown>, on = true) => ({ kind, on, params });
  const looping = { startFrame: 2_000, endFrame: 6_000, introFrames: 1_500, tailFrames: 800 };
  const shape = { rateHz: 48_000, channelCount: 1, frames: 10_000 };
  const behind = (...steps: Recipe['steps']) => {
    const { loop, intro, tail } = marksAfter({ version: 1, steps }, shape, {
      ...noMarks,
      loop: stated,
    });
    return { loop, intro, tail };
  };
  const stated = { startFrame: 100, endFrame: 9_000 };
  const span = (startFrame: number, endFrame: number) => ({ startFrame, endFrame });

  test('takes the place of the loop that the file states, and later steps move it with its parts', () => {
    expect(behind(step('loop', looping, false)).loop).toEqual(stated);
    expect(behind(step('loop', looping))).toEqual({
      loop: span(2_000, 6_000),
      intro: span(500, 2_000),
      tail: span(6_000, 6_800),
    });
    expect(behind(step('loop', looping), step('resample', { rateHz: 24_000 }))).toEqual({
      loop: span(1_000, 3_000),
      intro: span(250, 1_000),
      tail: span(3_000, 3_400),
    });
    // It counts in frames of what stands in front of it.
    const late = behind(
      step('keep', span(0, 9_000)),
      step('loop', { ...looping, endFrame: 8_200 }),
    );
    expect(late.tail).toEqual(span(8_200, 9_000));
  });

  test('its parts touch it: what is put in between belongs to them, and what is cut off is gone', () => {
    const loop = step('loop', looping);
    expect(behind(loop, step('silence', { atFrame: 2_000, frames: 100 })).intro).toEqual(
      span(500, 2_100),
    );
    expect(behind(loop, step('keep', span(2_000, 6_000)))).toEqual({
      loop: span(0, 4_000),
      intro: null,
      tail: null,
    });
    // Turned round, what was in front lies behind: it is no intro any more.
    expect(behind(loop, step('reverse', {}))).toEqual({
      loop: span(4_000, 8_000),
      intro: null,
      tail: null,
    });
    expect(behind(loop, step('cut', span(1_000, 3_000)))).toEqual({
      loop: null,
      intro: null,
      tail: null,
    });
  });

  test.each([
    [
      { ...looping, introFrames: 2_001 },
      /intro is longer than what lies in front of the loop: 2,000 frames/,
    ],
    [
      { ...looping, tailFrames: 4_001 },
      /tail is longer than what lies behind the loop: 4,000 frames/,
    ],
    [{ ...looping, endFrame: 2_000 }, /no length/],
    [{ ...looping, endFrame: 10_001 }, /outside the sound/],
  ])('%j is refused', (params, message) => {
    expect(() => shapeAfter({ version: 1, steps: [step('loop', params)] }, shape)).toThrow(message);
  });

  test('is found in the file by another program, and no sample is other than before', async () => {
    const source = memorySource(await encode([noise(12_000)], 48_000, 'wav', { bits: 16 }));
    const into = async (writer: string, ...steps: Recipe['steps']) => {
      const sink = new MemorySink();
      const recipe = { version: 1 as const, steps };
      const { warnings } = await convert(source, { recipe, writer, settings: {} }, sink);
      return { bytes: sink.bytes(), warnings: warnings.map(({ message }) => message) };
    };
    const marked = await into('wav', step('loop', looping));
    const file = new wavefile.WaveFile(marked.bytes);
    const { loops } = file.smpl as { loops: { dwStart: number; dwEnd: number }[] };
    expect(loops).toMatchObject([{ dwStart: 2_000, dwEnd: 5_999 }]);
    const plain = new wavefile.WaveFile((await into('wav')).bytes);
    expect(file.getSamples()).toEqual(plain.getSamples());
    expect(marked.warnings).toEqual(['WAV has no place for where intro and tail lie.']);
    const mp3 = await into('mp3', step('loop', { ...looping, introFrames: 0, tailFrames: 0 }));
    expect(mp3.warnings).toEqual([expect.stringMatching(/no place for the loop points/)]);
    const cut = await into('wav', step('loop', looping), step('cut', span(1_000, 3_000)));
    expect(cut.warnings).toEqual([expect.stringMatching(/The loop is gone/)]);
  });
});
