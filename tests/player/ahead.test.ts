import { withPage } from '../ui/page';
import { fetchAhead, firstFrames, readSpan, type Listenable } from '@/player/source';

const RATE = 8_000;
const sound = (name: string): Listenable => ({
  key: name,
  rateHz: RATE,
  channels: 2,
  frames: 10 * RATE,
  url: `/api/${name}`,
});

/** What was asked for; answers one frame in which left is 1 and right −1. */
let asked: string[];
let isServerThere: boolean;
let told: unknown[];
beforeEach(() => {
  [asked, told, isServerThere] = [[], [], true];
});
withPage({
  location: { href: 'http://127.0.0.1/p/1/collect' },
  fetch: async (address: string, { method, body }: RequestInit = {}) => {
    asked.push(address);
    if (body) told.push([method, JSON.parse(String(body))]);
    return isServerThere
      ? new Response(Float32Array.of(1, -1).buffer)
      : Response.json({ error: { message: 'gone' } }, { status: 404 });
  },
});

function beginningOf(listenable: Listenable): Promise<readonly Float32Array[]> {
  const { signal } = new AbortController();
  return readSpan(listenable, 0, firstFrames(listenable), signal);
}

test('a beginning that was fetched ahead is not fetched again, and is told apart by its channels', async () => {
  fetchAhead(sound('bell'));
  fetchAhead(sound('bell'));
  const channels = await beginningOf(sound('bell'));
  expect(asked).toEqual([`http://127.0.0.1/api/bell?start=0&frames=${firstFrames(sound('bell'))}`]);
  expect(channels.map((channel) => [...channel])).toEqual([[1], [-1]]);
});

test('only the newest beginnings are kept', async () => {
  for (let n = 0; n < 9; n++) fetchAhead(sound(`gust-${n}`));
  await beginningOf(sound('gust-8'));
  await beginningOf(sound('gust-3'));
  expect(asked).toHaveLength(9);
  await beginningOf(sound('gust-2'));
  expect(asked).toHaveLength(10);
});

test('what could not be fetched ahead is asked for again when it is wanted', async () => {
  isServerThere = false;
  fetchAhead(sound('wave'));
  await expect(beginningOf(sound('wave'))).rejects.toThrow('gone');
  isServerThere = true;
  expect(await beginningOf(sound('wave'))).toHaveLength(2);
});

test('a sound behind a recipe is asked for with its recipe, and never taken for the source', async () => {
  const recipe = { version: 1 as const, steps: [{ kind: 'reverse', on: true, params: {} }] };
  await beginningOf({ ...sound('shaped'), recipe });
  expect(told).toEqual([['POST', { recipe, start: 0, frames: firstFrames(sound('shaped')) }]]);
  expect(asked).toEqual(['/api/shaped']);
});

test('a sound that is shorter than a beginning is fetched whole', () => {
  expect(firstFrames({ ...sound('drop'), frames: 7 })).toBe(7);
});
