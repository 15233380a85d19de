import { labelDoubt } from '@/core/measure/labelDoubt';
import { stretchesOf, voiceFrames } from '@/core/measure/voice/frames';
import { VoiceMeter } from '@/core/measure/voice/meter';
import { voiceModel } from '@/core/measure/voice/model';
import { traitNames, voiceTraits } from '@/core/measure/voice/traits';
import { noise, sine } from './signals';
import { madeVoice } from '@/core/compare/reference/voice';

/** What is heard in a sound that is labelled with a rate. */
function heard(sound: Float32Array, labelledHz: number) {
  const meter = new VoiceMeter(labelledHz);
  for (let at = 0; at < sound.length; at += 10_000) meter.push([sound.subarray(at, at + 10_000)]);
  return meter.result();
}

test.each([
  ['a man', 110, 1, 44_100],
  ['a low voice', 90, 1.05, 44_100],
  ['a low voice', 90, 1.05, 22_050],
  ['a woman', 200, 0.86, 44_100],
])(
  '%s (%i Hz, size %d) at %i Hz is told from one at half and at twice its speed',
  (_, pitchHz, size, rateHz) => {
    const voice = madeVoice(rateHz, 5 * rateHz, pitchHz, size);
    expect(heard(voice, rateHz)).toBeNull();
    expect(heard(voice, rateHz * 2)).toBe('double');
    expect(heard(voice, rateHz / 2)).toBe('half');
  },
);

const RATE = 44_100;
const chord = (frames: number) => {
  const notes = [220, 277.2, 329.6].map((hz) => sine(RATE, hz, frames, 0.2));
  return notes[0]!.map((_, i) => notes.reduce((sum, note) => sum + note[i]!, 0));
};
test.each<[string, Float32Array]>([
  ['a tone', sine(RATE, 440, RATE * 4)],
  ['a high tone', sine(RATE, 3_000, RATE * 4)],
  ['a chord', chord(RATE * 4)],
  ['noise', noise(RATE * 4)],
  ['silence', new Float32Array(RATE)],
  ['one frame', Float32Array.of(0.5)],
  ['nothing', new Float32Array(0)],
  ['infinities', new Float32Array(RATE).fill(Infinity)],
])('%s is no voice at any speed', (_, sound) => {
  for (const factor of [0.5, 1, 2]) expect(heard(sound, RATE * factor)).toBeNull();
});

test('pitch and octaves are those of the sound', () => {
  const tone = sine(RATE, 150, RATE);
  for (const frame of voiceFrames(stretchesOf(tone, RATE), RATE)) {
    expect(frame.pitchHz).toBeCloseTo(150, 0);
    expect(frame.periodicity).toBeGreaterThan(0.97);
    expect(frame.octavePowers[0]! / frame.power).toBeGreaterThan(0.95);
  }
  for (const { periodicity } of voiceFrames(stretchesOf(noise(RATE), RATE), RATE))
    expect(periodicity).toBeLessThan(0.7);
});

test('the model has a weight for every trait', () => {
  expect(voiceTraits(madeVoice(RATE, 2 * RATE, 110), RATE)).toHaveLength(traitNames.length);
  for (const row of voiceModel.weights) expect(row).toHaveLength(traitNames.length + 1);
});

test('the rate that another field states is said before the one that is heard', () => {
  const file = { sampleRateHz: 44_100, otherRates: [] };
  expect(labelDoubt(file, null)).toBeNull();
  expect(labelDoubt(file, 'double')).toMatchObject({ labelledHz: 44_100, likelyHz: 22_050 });
  expect(labelDoubt({ ...file, sampleRateHz: 11_025 }, 'half')).toMatchObject({ likelyHz: 22_050 });
  // Nobody records voices at these.
  expect(labelDoubt({ ...file, sampleRateHz: 96_000 }, 'half')).toBeNull();
  expect(labelDoubt({ ...file, sampleRateHz: 8_000 }, 'double')).toBeNull();
  const otherRates = [{ rateHz: 48_000, where: 'its JUNK chunk' }];
  expect(labelDoubt({ ...file, otherRates }, 'double')).toMatchObject({ likelyHz: 48_000 });
});
