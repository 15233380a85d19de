import { allowedCharacters } from '@/core/pack/characters';
import { readIndex } from '@/core/pack/calls/readIndex';
import { bodies } from '../bodies';
import { readBody } from '../bodies/read';
import type { IndexTask, LookedIndex } from './tasks';

/** Looks at an index that was made elsewhere. */
export async function lookAtIndex(task: IndexTask): Promise<LookedIndex> {
  const { text, takeOver = false } =
    typeof task.text === 'string'
      ? { text: task.text }
      : readBody(Buffer.from(task.text).toString('utf8'), bodies.index.schema);
  const found = readIndex(text, task.there, allowedCharacters(task.characters));
  // What fills a slot is heard there, whether a call plays it or not.
  const slots = new Set(task.slots);
  const unused = found.unused?.filter((path) => !slots.has(path)) ?? null;
  return {
    report: new TextEncoder().encode(JSON.stringify({ ...found, unused })),
    calls: takeOver || typeof task.text === 'string' ? found.index : null,
    isTakenOver: takeOver,
  };
}
