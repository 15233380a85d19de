import fc from 'fast-check';
import Papa from 'papaparse';
import { leftOutByName, pathInArchive, safePath, splitPath } from '@/core/collect/arrivals';
import { cellText, tableColumns, tableRow, type TableRow } from '@/core/collect/columns';
import { renamed, renameWords, unknownWords } from '@/core/collect/rename';
import { fewestFor, sharesOf } from '@/core/collect/shares';
import { tableCsv, tableRecords } from '@/core/collect/table';
import { probe } from '@/core/measure/probe';
import { ThumbnailBuilder, thumbnailColumns } from '@/core/measure/thumbnail';
import { memorySource } from '@/core/bytes/source';
import { isMeantAsSound } from '@/core/formats/open';
import { encode } from './files';
import { noise, sine } from './signals';

describe('paths from outside', () => {
  test.each([
    ['wind/gust.wav', 'wind/gust.wav'],
    ['./wind//gust.wav', 'wind/gust.wav'],
    ['wind\\gust.wav', 'wind/gust.wav'],
    ['../gust.wav', null],
    ['wind/../../gust.wav', null],
    ['..\\gust.wav', null],
    ['/etc/passwd', null],
    ['C:\\gust.wav', null],
    ['', null],
    ['Донник/雷.wav', 'Донник/雷.wav'],
    ['a\u202egnp.wav', 'agnp.wav'],
    ['.\u0000./gust.wav', null],
  ])('%j becomes %j', (told, safe) => expect(safePath(told)).toBe(safe));

  test('no path leads out, whatever is told', () => {
    fc.assert(
      fc.property(
        fc.string({ unit: fc.constantFrom('.', '/', '\\', 'a', ':', ' ', '\u0000') }),
        (told) => {
          const safe = safePath(told);
          if (safe === null) return;
          expect(safe.startsWith('/')).toBe(false);
          expect(safe.split('/')).not.toContain('..');
        },
      ),
    );
  });

  test.each([
    ['.DS_Store', 'hidden'],
    ['a/.git/config', 'hidden'],
    ['a/Thumbs.db', 'hidden'],
    ['__MACOSX/a/._bell.wav', 'resource-fork'],
    ['a/._bell.wav', 'resource-fork'],
    ['a/bell.wav', null],
    ['a.b/bell', null],
  ])('%s is left out as %s', (path, reason) => expect(leftOutByName(path)).toBe(reason));

  test('an archive is a group of its own, once', () => {
    expect(pathInArchive('sea.zip', 'waves/a.wav')).toBe('sea/waves/a.wav');
    expect(pathInArchive('sea.zip', 'sea/a.wav')).toBe('sea/a.wav');
    expect(pathInArchive('old/Sea.ZIP', 'a.wav')).toBe('old/Sea/a.wav');
    expect(splitPath('a/b/c.wav')).toEqual({ folder: 'a/b', fileName: 'c.wav' });
    expect(splitPath('c.wav')).toEqual({ folder: '', fileName: 'c.wav' });
  });

  test('what is meant as sound says so by its contents or by its ending', async () => {
    const wav = await encode([sine(8_000, 440, 800)], 8_000, 'wav', { bits: 16 });
    const text = new TextEncoder().encode('#include <sound.h>\n');
    expect(isMeantAsSound(wav, 'bell')).toBe(true);
    expect(isMeantAsSound(text, 'letter.WAV')).toBe(true);
    expect(isMeantAsSound(text, 'toy.raw')).toBe(true);
    expect(isMeantAsSound(text, 'sound.h')).toBe(false);
    expect(isMeantAsSound(Uint8Array.of(0x89, 0x50, 0x4e, 0x47), 'cover.png')).toBe(false);
  });
});

describe('renaming many', () => {
  const facts = { sampleRateHz: 44_100, channels: 2, container: 'wav', codec: 'pcm' };
  const sounds = ['gust', 'Gust', 'bell'].map((name, i) => ({
    id: i + 1,
    name,
    fileName: `${name}.take.wav`,
    group: i < 2 ? 'weather/wind' : '',
    facts: i === 2 ? null : facts,
  }));
  const names = (pattern: string, more = {}) =>
    renamed(sounds, { pattern, ...more }).map(({ after }) => after);

  test('words are filled; unknown ones stay and are told', () => {
    expect(names('{file}_{rate}_{channels}')).toEqual([
      'gust.take_44.1kHz_stereo',
      'Gust.take_44.1kHz_stereo',
      'bell.take__',
    ]);
    expect(names('{name} {colour}')[0]).toBe('gust {colour}');
    expect(unknownWords('{name} {colour} {n:2}')).toEqual(['colour']);
    expect(Object.keys(renameWords)).toContain('n');
  });

  test('numbers count among names that are otherwise equal', () => {
    expect(names('{group} {n:3}', { from: 9 })).toEqual(['wind 009', 'wind 010', '009']);
    expect(names('x{n}')).toEqual(['x1', 'x2', 'x3']);
  });

  test('then parts are replaced, also by what looks like a pattern of replacing', () => {
    expect(names('{name}', { find: 'ust', put: '$&' })).toEqual(['g$&', 'G$&', 'bell']);
  });

  test('twins are pointed out: exact, by case, and with sounds that keep their names', () => {
    const problems = renamed(sounds, { pattern: '{name}' }, ['bell']).map(({ problem }) => problem);
    expect(problems[0]).toContain('upper and lower case');
    expect(problems[1]).toContain('upper and lower case');
    expect(problems[2]).toBe('Another sound has this name.');
    expect(renamed(sounds, { pattern: '{name}{n}' })[2]!.problem).toBeNull();
  });
});

describe('the table', () => {
  async function row(change: Partial<TableRow> = {}): Promise<TableRow> {
    const bytes = await encode([noise(4_410, 1)], 44_100, 'wav', { bits: 16 });
    const { facts } = await probe(memorySource(bytes));
    const sound = {
      name: 'bell',
      group: 'signals',
      labels: ['wet', 'far'],
      note: '',
      fileName: 'bell.wav',
      folder: '',
      addedAt: '2026-01-02T03:04:05.678Z',
      bytes: facts.bytes,
      facts,
      seam: facts.seam,
      worries: [
        { name: 'clipped', state: 'open' },
        { name: 'silent', state: 'set-aside' },
        { name: 'DC offset', state: 'cured' },
      ],
    };
    return { ...tableRow(sound, ['Web page', 'AR filter']), ...change };
  }

  test('every column has an own field, a value and a text', async () => {
    const ids = tableColumns.map(({ id }) => id);
    expect(new Set(ids).size).toBe(ids.length);
    const whole = await row();
    const unread = await row({ facts: null });
    for (const column of tableColumns) {
      expect(typeof cellText(column, whole)).toBe('string');
      if (column.kind === 'number') expect(column.value(whole) ?? 0).toEqual(expect.any(Number));
      expect(cellText(column, unread)).not.toMatch(/undefined|null|NaN/);
    }
    expect(
      cellText(
        tableColumns.find(({ id }) => id === 'worries')!,
        whole,
      ),
    ).toBe('clipped');
  });

  test('CSV holds what JSON holds, whatever is in the names', async () => {
    const rows = [
      await row({ name: 'a "quoted", bell\nwith a line' }),
      await row({ name: 'Glocke, 雷', note: ' ; ', facts: null }),
    ];
    const csv = tableCsv(rows, [{ id: 'file', of: (at) => `/x/${at}.wav` }]);
    const { data, errors } = Papa.parse<Record<string, string>>(csv.trimEnd(), { header: true });
    expect(errors).toEqual([]);
    const records = tableRecords(rows);
    expect(data.map(({ file }) => file)).toEqual(['/x/0.wav', '/x/1.wav']);
    data.forEach((line, i) => {
      for (const { id } of tableColumns) expect(line[id]).toBe(String(records[i]![id] ?? ''));
    });
    expect(records[0]).toMatchObject({ sampleRateHz: 44_100, frames: 4_410, seconds: 0.1 });
  });

  test('text that a spreadsheet would run is defused', async () => {
    const csv = tableCsv([await row({ name: '=HYPERLINK("http://x")' })]);
    expect(csv.split('\r\n')[1]).toMatch(/^"'=HYPERLINK/);
  });
});

describe('shares of a whole', () => {
  test('they add up, stand biggest first and side by side', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(1_000_000), { maxLength: 50 }), (sizes) => {
        const shares = sharesOf(sizes, (size) => size);
        const whole = sizes.reduce((sum, size) => sum + size, 0);
        if (whole === 0) return expect(shares).toEqual([]);
        expect(shares.reduce((sum, { share }) => sum + share, 0)).toBeCloseTo(1);
        shares.forEach(({ bytes, from }, i) => {
          if (i === 0) return expect(from).toBe(0);
          expect(bytes).toBeLessThanOrEqual(shares[i - 1]!.bytes);
          expect(from).toBeCloseTo(shares[i - 1]!.from + shares[i - 1]!.share);
        });
        const few = fewestFor(shares, 0.8);
        const sum = (n: number) => shares.slice(0, n).reduce((all, { bytes }) => all + bytes, 0);
        expect(sum(few)).toBeGreaterThanOrEqual(0.8 * whole - 1);
        expect(sum(few - 1)).toBeLessThan(0.8 * whole);
      }),
    );
  });
});

describe('thumbnails', () => {
  const pictureOf = (channels: Float32Array[], blockFrames: number) => {
    const builder = new ThumbnailBuilder();
    for (let at = 0; at < channels[0]!.length; at += blockFrames) {
      builder.push(channels.map((channel) => channel.subarray(at, at + blockFrames)));
    }
    return thumbnailColumns(builder.finish());
  };

  test('they hold the extremes, whatever the blocks', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 20_000 }),
        fc.integer({ min: 1, max: 3_000 }),
        (frames, block) => {
          const left = noise(frames, 3, 0.8);
          const right = noise(frames, 4, 0.3);
          const columns = pictureOf([left, right], block);
          expect(columns).toEqual(pictureOf([left, right], frames));
          expect(columns.length / 3).toBeLessThanOrEqual(120);
          expect(columns.length / 3).toBeGreaterThanOrEqual(Math.min(frames, 60));
          const lows = columns.filter((_, i) => i % 3 === 0);
          const highs = columns.filter((_, i) => i % 3 === 1);
          expect(Math.min(...lows)).toBeCloseTo(Math.min(...left, ...right), 1);
          expect(Math.max(...highs)).toBeCloseTo(Math.max(...left, ...right), 1);
        },
      ),
      { numRuns: 40 },
    );
  });

  test('the level of a steady sound is the same in every column, the last one too', () => {
    const columns = pictureOf([sine(48_000, 4_800, 50_003)], 4_096);
    const levels = columns.filter((_, i) => i % 3 === 2);
    for (const level of levels) expect(level).toBeCloseTo(0.5 / Math.SQRT2, 1);
  });
});
