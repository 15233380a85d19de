import { expect, test as base, type Page } from '@playwright/test';
import { serverOfWorker } from './server';

/** Every kind of screen, in the demo project. */
export const screens = [
  'collect',
  'shape/1',
  'shape/9',
  'shape/9/loop',
  'shape/loops?sounds=2,9',
  'shape/several?sounds=1,2,9',
  'shape/join?sounds=1,2,9',
  'compare/new',
  'pack?cell=8.ar-filter',
  'pack/briefs/game-mod',
  'pack/builds',
  'pack/layout/game-mod',
  'pack/layout/game-mod/calls',
  'pack/layout/game-mod/mend',
  'pack/packs',
  'rehearse',
  'rehearse/filter',
  'rehearse/mod',
];

/** Until the page's own code has taken over what the server drew: keys mean nothing before. */
export async function hydrated(page: Page): Promise<void> {
  await page.waitForFunction(() => {
    const own = (node: object | null, start: string) =>
      Object.entries(node ?? {}).find(([key]) => key.startsWith(start))?.[1] as unknown;
    // React holds the page's elements while it is still at it; its root and its boundaries say when it is done.
    const root = own(document, '__reactContainer') as { stateNode: { current: Fiber } } | undefined;
    const left: (Fiber | null)[] = [root?.stateNode.current ?? null];
    while (left.length > 0) {
      const fiber = left.pop();
      if (!fiber) continue;
      const { isDehydrated, dehydrated } = fiber.memoizedState ?? {};
      if (isDehydrated || dehydrated) return false;
      left.push(fiber.child, fiber.sibling);
    }
    return own(document.querySelector('main'), '__react') !== undefined;
  });
  // What listens to keys is put in place behind the next picture.
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => setTimeout(done))));
}

/** What React keeps of a component, as far as it is looked at here. */
interface Fiber {
  memoizedState: { isDehydrated?: boolean; dehydrated?: object | null } | null;
  child: Fiber | null;
  sibling: Fiber | null;
}

/** Opens an address and waits until it can be used. */
export async function open(page: Page, path: string): Promise<void> {
  await page.goto(path);
  await hydrated(page);
}

/** What people see of a fault of ours; wherever it appears, a story has failed. */
const INNER_ERROR = 'Something went wrong inside Bijou';

/** Stories in which no inner error may come up: neither on the page nor in an answer to it. */
export const test = base.extend<{ noInnerErrors: void }, { server: string }>({
  server: [
    // Playwright reads from the pattern what is wanted: nothing.
    async ({}, use, { workerIndex }) => {
      const { address, end } = await serverOfWorker(workerIndex);
      await use(address);
      await end();
    },
    { scope: 'worker', timeout: 240_000 },
  ],
  baseURL: ({ server }, use) => use(server),
  noInnerErrors: [
    async ({ page }, use) => {
      const found: string[] = [];
      page.on('response', (response) => {
        if (response.status() < 400) return;
        // An answer whose page has gone cannot be read any more.
        const text = response.text().catch(() => '');
        void text.then((body) => {
          if (body.includes(INNER_ERROR)) found.push(`${response.url()}: ${body}`);
        });
      });
      await use();
      expect(found).toEqual([]);
      expect(await page.getByText(INNER_ERROR).count()).toBe(0);
    },
    { auto: true },
  ],
});
