import { answering, type Asker } from '@/server/work/interest';
import { Remembered } from '@/server/work/remembered';

test('what is remembered is worked out once, makes room for newer, and failures are forgotten', async () => {
  const memory = new Remembered<string>({ most: 10, size: ({ length }) => length });
  const asker: Asker = { urgency: 0, gone: new Int32Array(1), deadline: Infinity };
  const made: string[] = [];
  const get = (key: string) =>
    memory.get(key, asker, async () => {
      made.push(key);
      if (key === 'bad') throw new Error('no');
      return key.repeat(4);
    });
  await Promise.all([get('a'), get('a'), get('b')]);
  expect(made).toEqual(['a', 'b']);
  await get('a');
  await get('c');
  // "b" was used longest ago.
  await get('a');
  await get('b');
  expect(made).toEqual(['a', 'b', 'c', 'b']);
  await expect(get('bad')).rejects.toThrow();
  await expect(get('bad')).rejects.toThrow();
  expect(made.filter((key) => key === 'bad')).toHaveLength(2);
});

test('measuring rests for what is more urgent, goes on for whoever joins, and ends with the last who waits', async () => {
  const asker = (urgency: Asker['urgency']): Asker => ({
    urgency,
    gone: new Int32Array(new SharedArrayBuffer(4)),
    deadline: Infinity,
  });
  const memory = new Remembered<number>({ most: 10 });
  const [slow, other] = [asker(3), asker(3)];
  let blocks = 0;
  const measure = () =>
    memory.get('figure', slow, async (interest) => {
      for (; blocks < 1_000; blocks++) await interest.rest();
      return blocks;
    });
  const measuring = measure();
  const turns = async (count: number) => {
    for (let i = 0; i < count; i++) await new Promise((resume) => setImmediate(resume));
  };
  await turns(10);
  expect(blocks).toBeGreaterThan(5);
  await answering(asker(0), async () => {
    await turns(2);
    const before = blocks;
    await turns(50);
    // At most the block that was at work goes to its end.
    expect(blocks - before).toBeLessThan(2);
  });
  // Who asked first goes, another waits for the same: it is not ended.
  const joined = memory.get('figure', other, () => Promise.reject(new Error('made twice')));
  Atomics.store(slow.gone, 0, 1);
  await turns(20);
  expect(blocks).toBeLessThan(1_000);
  Atomics.store(other.gone, 0, 1);
  await expect(joined).rejects.toMatchObject({ code: 'cancelled' });
  await expect(measuring).rejects.toMatchObject({ code: 'cancelled' });
  // Something urgent that needs the very figure does not wait for itself.
  blocks = 0;
  const again = memory.get('again', asker(3), async (interest) => {
    for (; blocks < 100; blocks++) await interest.rest();
    return blocks;
  });
  const urgent = asker(0);
  expect(await answering(urgent, () => memory.get('again', urgent, () => again))).toBe(100);
  // And nothing is measured for ever.
  const late = { ...asker(1), deadline: performance.now() - 1 };
  const endless = memory.get('endless', late, async (interest) => {
    for (;;) await interest.rest();
  });
  await expect(endless).rejects.toMatchObject({ code: 'too-slow' });
});
