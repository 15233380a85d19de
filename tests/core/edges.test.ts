import { MemorySink, memorySource } from '@/core/bytes/source';
import { writers } from '@/core/formats';
import { legalityRefusal } from '@/core/formats/legality';
import { isSpan } from '@/core/formats/rates';
import type { WriterKind } from '@/core/formats/types';
import { checkedSettings, filledSettings } from '@/core/formats/write';
import { probe } from '@/core/measure/probe';
import { HIGHEST_HZ, LOWEST_HZ } from '@/core/pcm/rates';
import { pcmFromChannels } from '@/core/pcm/pcm';
import { sine } from './signals';

/** What is said to be legal is what the encoders really hold: tried at each edge, and beyond it. */

const NO_MARKS = { tags: {}, loop: null, markers: [], intro: null, tail: null };

/** Whether a sound of that rate comes back as it went in, when nobody checks what is legal. */
async function holds(kind: WriterKind, rateHz: number, settings: object): Promise<boolean> {
  const frames = Math.min(rateHz, 20_000);
  const sink = new MemorySink();
  const channels = [sine(rateHz, rateHz / 20, frames, 0.4)];
  const filled = filledSettings(kind, settings);
  try {
    await kind.write(pcmFromChannels(channels, rateHz), sink, filled, NO_MARKS);
    const raw = kind.id === 'raw' ? { encoding: 's16le' as const, rateHz, channels: 1 } : undefined;
    const { facts } = await probe(memorySource(sink.bytes()), { raw });
    // Half of the full scale at least: an encoder that knows no such rate gives something else.
    return facts.sampleRateHz === rateHz && facts.frames === frames && facts.peakDbfs! > -14;
  } catch {
    return false;
  }
}

const fittingAt = (kind: WriterKind, rateHz: number) => {
  const settings = filledSettings(kind, {});
  return kind.nearest?.(settings, rateHz, 1) ?? settings;
};

describe.each(writers.map((kind) => ({ id: kind.id, kind })))('$id', ({ kind }) => {
  const { rates } = kind.legal;
  const edges = isSpan(rates)
    ? [rates.fromHz, rates.fromHz + 1, 11_000, 22_100, 37_800, 50_000, rates.toHz - 1, rates.toHz]
    : [...rates];

  test('holds every rate at its edges', async () => {
    for (const rateHz of edges) {
      expect([rateHz, legalityRefusal(kind, rateHz, 1)]).toEqual([rateHz, null]);
      expect([rateHz, await holds(kind, rateHz, fittingAt(kind, rateHz))]).toEqual([rateHz, true]);
    }
  });

  test('refuses what lies beyond, which its encoder does not hold either', async () => {
    const beyond = isSpan(rates)
      ? [rates.fromHz - 1, rates.toHz + 1]
      : [rates[0]! - 1, 7_350, 37_800, rates.at(-1)! + 1, 192_000].filter(
          (hz) => !rates.includes(hz),
        );
    for (const rateHz of beyond) {
      expect([rateHz, legalityRefusal(kind, rateHz, 1)?.code]).toEqual([rateHz, 'not-legal']);
      const isARate = rateHz >= LOWEST_HZ && rateHz <= HIGHEST_HZ;
      if (!isARate) continue;
      expect([rateHz, await holds(kind, rateHz, fittingAt(kind, rateHz))]).toEqual([rateHz, false]);
    }
  });

  test('settings that fit are legal and nearest', () => {
    for (const rateHz of edges) {
      for (const channels of kind.legal.channels) {
        const near = fittingAt(kind, rateHz);
        if (!kind.nearest) continue;
        const fitted = kind.nearest(filledSettings(kind, {}), rateHz, channels);
        expect(() => checkedSettings(kind, fitted, rateHz, channels)).not.toThrow();
        expect(kind.nearest(fitted, rateHz, channels)).toEqual(fitted);
        expect(near).toBeDefined();
      }
    }
  });
});
