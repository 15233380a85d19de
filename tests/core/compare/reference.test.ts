import { makeReference, references } from '@/core/compare/reference';
import { memorySource } from '@/core/bytes/source';
import { probe } from '@/core/measure/probe';
import { encode } from '../files';

const factsOf = async (channels: Float32Array[], rateHz: number) =>
  (await probe(memorySource(await encode(channels, rateHz, 'wav', { bits: 24 })))).facts;

test.each(references.map(({ id }) => id))(
  '%s is the same each time, at every rate, and clips nowhere',
  async (id) => {
    for (const rateHz of [8_000, 44_100, 96_000]) {
      const made = makeReference(id, { seconds: 1, rateHz });
      expect(made.every((channel) => channel.length === rateHz)).toBe(true);
      expect(makeReference(id, { seconds: 1, rateHz })).toEqual(made);
      const { peakDbfs } = await factsOf(made, rateHz);
      expect(peakDbfs!).toBeLessThan(-0.5);
      expect(peakDbfs!).toBeGreaterThan(-85);
    }
    expect(makeReference(id, { seconds: 1 / 48_000 })[0]).toHaveLength(1);
  },
);

test('pink noise has as much power in every octave, and both its channels are other noise', async () => {
  const { spectrum, correlation, rmsDbfs } = await factsOf(
    makeReference('pink-noise', { seconds: 10 }),
    48_000,
  );
  expect(Math.abs(correlation!)).toBeLessThan(0.05);
  expect(rmsDbfs).toBeCloseTo(-20, 1);
  // The loudest bin of a point falls by 3 dB in an octave.
  const at = (hz: number) => {
    const i = spectrum!.hz.findIndex((one) => one >= hz);
    return spectrum!.levelsDb.slice(i - 3, i + 4).reduce((sum, x) => sum + x, 0) / 7;
  };
  for (const hz of [400, 800, 1_600, 3_200, 6_400]) {
    expect(at(hz) - at(2 * hz)).toBeGreaterThan(1.8);
    expect(at(hz) - at(2 * hz)).toBeLessThan(4.2);
  }
});

test('tones, sweep, clicks and near-silence are what they say', async () => {
  const [tone] = makeReference('tone', { seconds: 1 });
  expect(tone!.filter((x, i) => i > 0 && x >= 0 && tone![i - 1]! < 0)).toHaveLength(996);
  expect((await factsOf([tone!], 48_000)).rmsDbfs).toBeCloseTo(-20, 1);
  const { bandwidthHz } = await factsOf(makeReference('sweep', { seconds: 3 }), 48_000);
  expect(Math.abs(bandwidthHz! - 21_600)).toBeLessThan(400);
  const [clicks] = makeReference('clicks', { seconds: 1 });
  expect([...clicks!].flatMap((x, i) => (x === 0 ? [] : [i]))).toEqual([
    6_000, 18_000, 30_000, 42_000,
  ]);
  expect((await factsOf(makeReference('near-silence', {}), 48_000)).rmsDbfs).toBeCloseTo(-84, 0);
});

test.each([
  ['nope', {}],
  ['tone', { seconds: 0 }],
  ['tone', { seconds: -1 }],
  ['tone', { seconds: 301 }],
  ['tone', { seconds: NaN }],
  ['tone', { rateHz: 7 }],
  ['tone', { rateHz: 44_100.5 }],
])('%s with %j is refused in words', (id, options) => {
  expect(() => makeReference(id, options)).toThrow(
    expect.objectContaining({ hint: expect.stringMatching(/./) }),
  );
});
