import fc from 'fast-check';
import { listText, packChanges, patchText, pathsInPatch, type KeptFile } from '@/core/pack/changes';

const file = (path: string, sha256 = path, bytes = 1): KeptFile => ({ path, sha256, bytes });

test('what is new, other, gone and moved is told', () => {
  const before = [file('a'), file('b'), file('c'), file('old/d', 'd')];
  const now = [file('a'), file('b', 'x'), file('new/d', 'd'), file('e')];
  expect(packChanges(before, now)).toEqual({
    added: [file('e')],
    changed: [file('b', 'x')],
    removed: [file('c')],
    moved: [{ ...file('new/d', 'd'), from: 'old/d' }],
    same: 1,
  });
});

const packs = fc
  .uniqueArray(fc.tuple(fc.constantFrom(...'abcdefgh'), fc.constantFrom('1', '2', '3')), {
    selector: ([path]) => path,
  })
  .map((list) => list.map(([path, sha]) => file(path, sha)));

test('a patch laid over the pack that it stands on makes the other one', () => {
  fc.assert(
    fc.property(packs, packs, (before, now) => {
      const changes = packChanges(before, now);
      const list = JSON.parse(patchText(changes, { id: 3, sha256: 'x' })) as {
        added: KeptFile[];
        changed: KeptFile[];
        removed: string[];
        same: number;
        pack: number;
      };
      const laid = new Map(before.map((one) => [one.path, one]));
      for (const path of list.removed) expect(laid.delete(path)).toBe(true);
      for (const one of list.added) {
        expect(laid.has(one.path)).toBe(false);
        laid.set(one.path, one);
      }
      for (const one of list.changed) {
        expect(laid.get(one.path)!.sha256).not.toBe(one.sha256);
        laid.set(one.path, one);
      }
      expect(listText([...laid.values()])).toBe(listText(now));
      expect(list.same + list.added.length + list.changed.length).toBe(now.length);
      expect(list.pack).toBe(3);
    }),
  );
});

test('the list that tells packs apart hangs neither on order nor on sizes', () => {
  expect(listText([file('b'), file('a')])).toBe(listText([file('a', 'a', 9), file('b')]));
  expect(listText([file('a')])).not.toBe(listText([file('A', 'a')]));
});

test('a patch holds what is new, other or elsewhere, and has room for its list', () => {
  const before = [file('a'), file('b'), file('old', 'd')];
  const changes = packChanges(before, [file('a', 'x'), file('b'), file('new', 'd'), file('e')]);
  expect([...pathsInPatch(changes)].sort()).toEqual(['a', 'e', 'new']);
  expect(() => pathsInPatch(packChanges([], [file('patch.json')]))).toThrow(/of its own/);
});
