import { writerById } from '@/core/formats/write';
import { shortcuts, shortcutsFor } from '@/ui/frame/help';
import { expectedOf, sumOf } from '@/ui/convert/estimates';
import { dialValue, expectedText, ratioText } from '@/ui/convert/words';

describe('the sheet of shortcuts', () => {
  test('begins with the present station, then what works everywhere', () => {
    const order = shortcutsFor('pack', '').map(({ station }) => station);
    expect(order.slice(0, 3)).toEqual(['pack', 'pack', null]);
    expect(order).toHaveLength(shortcuts.length);
  });

  test('finds by what a key does, by the key and by where it works', () => {
    const found = (search: string) =>
      shortcutsFor('shape', search).flatMap(({ keys }) => keys.map(([key]) => key));
    expect(found('nudge start')).toEqual(['Q W']);
    expect(found('shift+q')).toEqual(['Shift+Q Shift+P']);
    expect(found('convert').sort()).toEqual(['Z', 'Z']);
    expect(found('trombone')).toEqual([]);
  });

  test('no key stands for two things at one place', () => {
    for (const station of ['collect', 'shape', 'pack']) {
      for (const bench of [undefined, 'loop']) {
        const keys = shortcuts
          .filter((group) => group.station === station && group.bench === bench)
          .flatMap(({ keys: own }) => own.flatMap(([key]) => key.split(' ')));
        expect(keys.filter((key, i) => keys.indexOf(key) !== i)).toEqual([]);
      }
    }
  });
});

describe('what files will come to', () => {
  const outlook = (soundId: number, seconds: number) => ({
    soundId,
    seconds,
    error: null,
    changes: [],
    lost: null,
    overDb: null,
    usual: [1_000, 9_000] as const,
  });
  const outlooks = [1, 2, 3, 4].map((id) => outlook(id, 10));

  test('lies between what is usual until neighbours have said more', () => {
    const one = new Map([[1, { bytes: 40_000, isExact: false }]]);
    const first = expectedOf(outlooks, one);
    expect(first.get(1)).toEqual({ least: 40_000, most: 40_000, isExact: false });
    expect(first.get(4)).toEqual({ least: 10_000, most: 90_000, isExact: false });
    const three = new Map(
      [1, 2, 3].map((id) => [id, { bytes: 40_000 + id * 1_000, isExact: false }]),
    );
    const later = expectedOf(outlooks, three).get(4)!;
    expect(later.least).toBeCloseTo(41_000 * 0.85);
    expect(later.most).toBeCloseTo(43_000 * 1.15);
  });

  test('is summed up, and exact only where all of it is', () => {
    expect(
      sumOf([
        { least: 1, most: 2, isExact: false },
        { least: 5, most: 5, isExact: true },
      ]),
    ).toEqual({
      least: 6,
      most: 7,
      isExact: false,
    });
  });

  test.each([
    [{ least: 412_345, most: 412_345, isExact: true }, '412 kB'],
    [{ least: 412_345, most: 412_345, isExact: false }, 'about 410 kB'],
    [{ least: 301_000, most: 519_000, isExact: false }, '300–520 kB'],
    [{ least: 920_000, most: 1_240_000, isExact: false }, '920 kB–1.2 MB'],
    [{ least: 0, most: 0, isExact: true }, '0 B'],
  ])('%j is said as "%s"', (expected, text) => {
    expect(expectedText(expected)).toBe(text);
  });

  test('what grows is said to grow', () => {
    expect(ratioText(1_000, 250)).toBe('÷ 4.0');
    expect(ratioText(1_000, 1_500)).toBe('× 1.5, larger');
  });

  test.each([
    ['mp3', 1, ['0 (best)', '5', '9 (small)']],
    ['ogg', 0, ['−1 (small)', '5', '10 (best)']],
    ['flac', 0, ['0 (quick)', '5', '8 (small)']],
    ['ogg-opus', 0, ['96 kbit/s']],
  ])('the dial of %s says which way it goes', (writer, n, texts) => {
    const dial = writerById(writer).dials[n]!;
    const values = texts.map((text) => Number.parseInt(text.replace('−', '-')));
    expect(values.map((value) => dialValue(dial, value))).toEqual(texts);
  });
});
