import fc from 'fast-check';
import { tableColumns, type TableRow } from '@/core/collect/columns';
import { unmeasured } from '@/core/measure/probe';
import { chooseOnly, chooseTo, invertChoice, toggleChoice, useChoice } from '@/ui/collect/choice';
import { filterText, isFound, passes, tidyFilter } from '@/ui/collect/table/filters';
import { fitting } from '@/ui/collect/order/fitting';
import { moved, nudged, readLayout } from '@/ui/collect/table/layout';
import { withNews } from '@/ui/shared/news';
import { packState, unpackState } from '@/wire/travelling';
import type { Cell, ProjectNews, ProjectState, Sound } from '@/wire';

const column = (id: string) => tableColumns.find((one) => one.id === id)!;

function row(change: Partial<TableRow> = {}): TableRow {
  return {
    name: 'Wind gust',
    group: 'weather',
    labels: ['far'],
    note: 'from the gallery',
    fileName: 'gust_03.wav',
    folder: 'storm/wind',
    addedAt: null,
    usedIn: [],
    bytes: 44_144,
    worries: [{ name: 'clipped' }],
    seam: null,
    facts: {
      ...unmeasured,
      tags: { artist: 'The keeper' },
      container: 'wav',
      codec: 'pcm',
      sampleRateHz: 44_100,
      channels: 1,
      bitDepth: 16,
      frames: 22_050,
      seconds: 0.5,
      bytes: 44_144,
      bitRateKbps: 706,
      peakDbfs: -8.7,
      rmsDbfs: -13,
      correlation: null,
    },
    ...change,
  };
}

describe('the layout of the table', () => {
  test('whatever was stored, every column stands somewhere, once', () => {
    fc.assert(
      fc.property(
        fc.dictionary(
          fc.constantFrom('order', 'shown', 'widths', 'sort', 'filters', 'worry', 'groupBy'),
          fc.jsonValue(),
        ),
        (stored) => {
          const layout = readLayout(stored);
          expect([...layout.order].sort()).toEqual(tableColumns.map(({ id }) => id).sort());
          for (const id of layout.shown) expect(layout.order).toContain(id);
        },
      ),
    );
  });

  test('what was chosen is kept; by name at first, as it came when nobody wants it sorted', () => {
    const stored = {
      shown: ['lufs'],
      sort: { id: 'bytes', desc: true },
      widths: { name: 99, x: 1 },
    };
    expect(readLayout(stored)).toMatchObject({ ...stored, widths: { name: 99 } });
    expect(readLayout({}).sort).toEqual({ id: 'name', desc: false });
    expect(readLayout({ sort: null }).sort).toBeNull();
  });

  test('columns move in front of others, and by one place among those that are shown', () => {
    expect(moved(['a', 'b', 'c'], 'c', 'a')).toEqual(['c', 'a', 'b']);
    expect(moved(['a', 'b', 'c'], 'a', null)).toEqual(['b', 'c', 'a']);
    expect(moved(['a', 'b'], 'a', 'x')).toEqual(['a', 'b']);
    const layout = { ...readLayout({}), order: ['a', 'hidden', 'b', 'c'], shown: ['a', 'b', 'c'] };
    expect(nudged(layout, 'b', -1)).toEqual(['b', 'a', 'hidden', 'c']);
    expect(nudged(layout, 'b', 1)).toEqual(['a', 'hidden', 'c', 'b']);
    expect(nudged(layout, 'a', -1)).toEqual(layout.order);
    expect(nudged(layout, 'c', 1)).toEqual(layout.order);
  });
});

describe('filters', () => {
  test.each([
    ['seconds', { min: 0.5 }, true],
    ['seconds', { min: 0.5, max: 0.5 }, true],
    ['seconds', { max: 0.4 }, false],
    ['lufs', { max: 0 }, false],
    ['sampleRateHz', { values: ['44.1 kHz'] }, true],
    ['sampleRateHz', { values: ['48 kHz'] }, false],
    ['name', { text: ' GUST' }, true],
    ['worries', { text: 'clip' }, true],
    ['note', { text: 'cellar' }, false],
  ])('%s with %j: %s', (id, filter, isThere) =>
    expect(passes(column(id), row(), filter)).toBe(isThere),
  );

  test('they say what they do, in the unit of their column', () => {
    expect(filterText(column('sampleRateHz'), { min: 44_100 })).toBe('Rate at least 44.1 kHz');
    expect(filterText(column('group'), { values: ['', 'sea'] })).toBe('Group is empty or sea');
    expect(tidyFilter({ text: ' ', min: NaN, values: [] })).toBeNull();
  });

  test('a search finds every word, in any text, whatever its case', () => {
    for (const words of ['gust', 'KEEPER', 'far wind', 'storm wav', 'clipped gallery', 'pcm']) {
      expect([words, isFound(row(), words)]).toEqual([words, true]);
    }
    expect(isFound(row(), 'gust cellar')).toBe(false);
  });
});

test('choosing: one, a range either way, one more, the others', () => {
  const listed = [5, 3, 9, 1, 7];
  const chosen = () => [...useChoice.getState().ids];
  chooseOnly([9]);
  chooseTo(7, listed);
  expect(chosen()).toEqual([9, 1, 7]);
  chooseTo(5, listed);
  expect(chosen()).toEqual([5, 3, 9]);
  toggleChoice(3);
  expect(chosen()).toEqual([5, 9]);
  invertChoice(listed);
  expect(chosen()).toEqual([3, 1, 7]);
  chooseOnly([]);
  chooseTo(1, listed);
  expect(chosen()).toEqual([1]);
});

test('news change what they name, keep all else as the same objects, and the order of coming in', () => {
  const sound = (id: number, name = 'old') => ({ id, name }) as Sound;
  const cell = (id: number, soundId: number) => ({ id, soundId }) as Cell;
  const before = {
    sounds: [sound(1), sound(3), sound(4)],
    cells: [cell(1, 1), cell(2, 3), cell(3, 4), cell(4, 1)],
    layout: { hear: true },
  } as unknown as ProjectState;
  const news = (changed: Sound[], gone: number[], cells: Cell[] = [], goneCells: number[] = []) =>
    ({ changed, gone, cells, goneCells, revision: 9 }) as ProjectNews;
  const fresh = [cell(2, 3), cell(5, 2)];
  const after = withNews(before, news([sound(3, 'new'), sound(2)], [4, 77], fresh));
  expect(after.cells.map(({ id }) => id)).toEqual([1, 2, 4, 5]);
  expect(after.cells[1]).toBe(fresh[0]);
  expect(after.sounds.map(({ id, name }) => [id, name])).toEqual([
    [1, 'old'],
    [2, 'old'],
    [3, 'new'],
  ]);
  expect(after.sounds[0]).toBe(before.sounds[0]);
  expect(after).toMatchObject({ revision: 9, layout: { hear: true } });
  expect(withNews(before, news([], [])).sounds).toBe(before.sounds);
  const left = withNews(before, news([], [], [], [2])).cells;
  expect(left.map(({ id }) => id)).toEqual([1, 3, 4]);
});

test('a state travels as rows and arrives as it was', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.string(), fc.option(fc.integer()))), (list) => {
      const sounds = list.map(([name, frames], id) => ({
        id,
        name,
        labels: [name],
        facts: frames === null ? null : { ...unmeasured, frames, codec: name },
      }));
      const cells = sounds.map(({ id }) => ({ id, soundId: id, briefId: 'archive' }));
      const state = { project: { id: 1 }, sounds, cells, revision: 7 };
      const whole = state as unknown as ProjectState;
      expect(unpackState(packState(whole))).toEqual(state);
    }),
  );
});

test('chips that have no room give way to one that says how many they are', () => {
  expect(fitting([], 176)).toBe(0);
  expect(fitting(['clipped', 'spare rate'], 176)).toBe(2);
  // Each on a line of its own: the third would be out of sight.
  expect(fitting(['opposite polarity', 'silence in front', 'channels alike'], 130)).toBe(1);
  expect(fitting(['opposite polarity', 'silence in front', 'channels alike'], 400)).toBe(3);
  fc.assert(
    fc.property(
      fc.array(fc.string({ minLength: 3, maxLength: 20 }), { maxLength: 8 }),
      fc.integer({ min: 60, max: 600 }),
      (names, width) => {
        const room = fitting(names, width);
        expect(room).toBeGreaterThanOrEqual(0);
        expect(room).toBeLessThanOrEqual(names.length);
        expect(fitting(names, width + 100)).toBeGreaterThanOrEqual(room);
      },
    ),
  );
});
