import { voicePace } from '@/core/measure/voice/pace';
import { fitted, type Example } from './fit';

/** How well each family is told by what the others taught, as lines of a table. */
export function* judged(examples: readonly Example[]): Generator<string> {
  for (const family of new Set(examples.map((example) => example.family))) {
    const model = fitted(examples.filter((example) => example.family !== family));
    const own = new Map<string, Example[]>();
    for (const example of examples) {
      if (example.family !== family) continue;
      own.set(example.file, [...(own.get(example.file) ?? []), example]);
    }
    /** What is said of a recording that is labelled with so many times its rate. */
    const said = (readings: readonly Example[], labelled: number) =>
      voicePace(
        (factor) =>
          readings.find((reading) => reading.factor === labelled * factor)?.traits ?? null,
        model,
      );
    const share = (labelled: number, pace: 'half' | 'double') => {
      const found = [...own.values()].filter((readings) => said(readings, labelled) === pace);
      return `${((100 * found.length) / own.size).toFixed(1)} %`;
    };
    yield (
      `${family} (${own.size}): right ones said double ${share(1, 'double')}, half ${share(1, 'half')}; ` +
      `doubled found ${share(2, 'double')}; halved found ${share(0.5, 'half')}`
    );
  }
}
