import fc from 'fast-check';
import { proposeTempo } from '@/core/measure/tempo';
import { sourceFromChannels } from '@/core/pcm/source';
import { barsFrom, frameOfBar } from '@/core/tempo';
import { keepersWaltz, waltzTempo } from '../../tools/demo/sounds/keepersWaltz';
import { noise } from './signals';

const rateHz = 22_050;

/** Strokes on every beat, stronger on the first of a bar. */
function strokes(bpm: number, beatsPerBar: number, seconds = 2_400 / bpm): Float32Array {
  const sound = new Float32Array(Math.round(rateHz * seconds));
  for (let beat = 0; (beat * 60) / bpm < seconds - 0.2; beat++) {
    const at = Math.round(((beat * 60) / bpm) * rateHz);
    const isFirst = beat % beatsPerBar === 0;
    for (let i = 0; i < 2_000; i++) {
      const tone = Math.sin(i * (isFirst ? 0.05 : 0.1));
      sound[at + i]! += (isFirst ? 0.8 : 0.4) * Math.exp(-i / 300) * tone;
    }
  }
  return sound;
}

const found = (channels: Float32Array[], hz = rateHz) =>
  proposeTempo(sourceFromChannels(channels, hz));

describe('a tempo is proposed', () => {
  test.each([
    [60, 4],
    [96, 4],
    [112.5, 4],
    [138, 3],
    [174, 4],
  ])('for strokes at %d beats a minute, %i a bar', async (bpm, beatsPerBar) => {
    const tempo = await found([strokes(bpm, beatsPerBar)]);
    expect(tempo!.bpm).toBeCloseTo(bpm, 1);
    expect(tempo!.beatsPerBar).toBe(beatsPerBar);
    expect(tempo!.confidence).toBeGreaterThan(0.6);
  });

  test('for music, and hardly for noise', async () => {
    const waltz = await found(keepersWaltz.make(rateHz));
    expect(waltz).toMatchObject(waltzTempo);
    expect(waltz!.confidence).toBeGreaterThan(0.4);
    expect((await found([noise(rateHz * 10)]))?.confidence ?? 0).toBeLessThan(0.2);
  });

  test('for nothing that has none', async () => {
    expect(await found([new Float32Array(rateHz * 10)])).toBeNull();
    expect(await found([noise(rateHz)])).toBeNull();
  });
});

describe('so many bars', () => {
  const four = { bpm: 96, beatsPerBar: 4 };

  test('have their frames and a remainder', () => {
    expect(barsFrom(0, 10, four, 48_000)).toEqual({ endFrame: 1_200_000, remainderFrames: 0 });
    const waltz = barsFrom(0, 16, waltzTempo, 44_100);
    expect(waltz.endFrame).toBe(920_348);
    expect(waltz.remainderFrames).toBeCloseTo(-0.174, 3);
  });

  test('never drift, however many there are and wherever they begin', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 20, max: 400, noNaN: true }),
        fc.integer({ min: 1, max: 12 }),
        fc.integer({ min: 1, max: 500 }),
        fc.integer({ min: 1, max: 2_000 }),
        (bpm, beatsPerBar, first, bars) => {
          const tempo = { bpm, beatsPerBar };
          const start = frameOfBar(first, 1, tempo, 44_100);
          const { endFrame, remainderFrames } = barsFrom(start, bars, tempo, 44_100);
          expect(endFrame).toBe(frameOfBar(first + bars, 1, tempo, 44_100));
          const exact = (bars * beatsPerBar * 60 * 44_100) / bpm;
          expect(endFrame - start + remainderFrames).toBeCloseTo(exact, 3);
          expect(Math.abs(remainderFrames)).toBeLessThanOrEqual(1 + 1e-6);
        },
      ),
    );
  });
});
