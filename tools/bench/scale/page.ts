import { chromium, type Browser, type Page } from '@playwright/test';
import { chromiumPath } from '../../../scripts/setUp.mjs';

/** Times in milliseconds that one thing took when it was done again and again. */
export type Times = readonly number[];

declare global {
  interface Window {
    /** From a key to the first frame that is heard, for each key. */
    heardAfter: number[];
    /** Between two pictures of the screen, since `watch` was called. */
    gaps: number[];
    /** Pictures with a place in the list that has no line on it. */
    blanks: number;
  }
}

export async function openBrowser(): Promise<Browser> {
  return chromium.launch({
    executablePath: chromiumPath(),
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-background-networking',
      '--autoplay-policy=no-user-gesture-required',
    ],
  });
}

/** A page that notes when sound begins after a key. */
export async function openPage(browser: Browser): Promise<Page> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript(() => {
    window.heardAfter = [];
    let pressed: number | null = null;
    addEventListener('keydown', ({ timeStamp }) => (pressed = timeStamp), true);
    const { start } = AudioBufferSourceNode.prototype;
    AudioBufferSourceNode.prototype.start = function (when = 0, ...rest) {
      if (pressed !== null) {
        const ahead = Math.max(0, when - this.context.currentTime) * 1000;
        window.heardAfter.push(performance.now() + ahead - pressed);
        pressed = null;
      }
      return start.call(this, when, ...rest);
    };
  });
  return page;
}

/** From the call of an address until the first lines are drawn, and until the page answers to keys. */
export async function appearing(
  page: Page,
  address: string,
): Promise<{ drawn: number; answers: number }> {
  await page.goto(address, { waitUntil: 'commit' });
  const drawn = await page.waitForFunction(() => {
    const [paint] = performance.getEntriesByName('first-contentful-paint');
    return document.querySelector('[id^=sound-]') && paint ? paint.startTime : null;
  });
  const answers = await page.waitForFunction(() => {
    const grid = document.querySelector('[role=grid]');
    return grid && Object.keys(grid).some((key) => key.startsWith('__react'))
      ? performance.now()
      : null;
  });
  return { drawn: Number(await drawn.jsonValue()), answers: Number(await answers.jsonValue()) };
}

/**
 * From a click on what `selector` finds until the list has been drawn in its new form, `times` times over.
 * `next` names what must be other than before: an attribute of the grid's first line.
 */
export async function clicking(page: Page, selector: string, times: number): Promise<Times> {
  return page.evaluate(
    async ({ selector, times }) => {
      const took: number[] = [];
      const state = () =>
        [...document.querySelectorAll('[id^=sound-], [aria-sort], [aria-rowcount]')]
          .map((one) => one.id + one.getAttribute('aria-sort') + one.getAttribute('aria-rowcount'))
          .join();
      const painted = () =>
        new Promise((done) => requestAnimationFrame(() => setTimeout(() => done(null))));
      for (let i = 0; i < times; i++) {
        const before = state();
        const began = performance.now();
        document.querySelector<HTMLElement>(selector)!.click();
        do await painted();
        while (state() === before && performance.now() - began < 5_000);
        took.push(performance.now() - began);
        await new Promise((done) => setTimeout(done, 400));
      }
      return took;
    },
    { selector, times },
  );
}

/** From a letter typed into the search until the list has been drawn again. */
export async function typing(page: Page, words: string): Promise<Times> {
  const took: number[] = [];
  await page.keyboard.press('/');
  for (const letter of words) {
    await page.evaluate(() => {
      addEventListener(
        'keydown',
        ({ timeStamp }) => {
          requestAnimationFrame(() =>
            setTimeout(() => window.gaps.push(performance.now() - timeStamp)),
          );
        },
        { capture: true, once: true },
      );
      window.gaps = [];
    });
    await page.keyboard.type(letter);
    await page.waitForTimeout(250);
    took.push(...(await page.evaluate(() => window.gaps)));
  }
  await page.getByRole('searchbox').fill('');
  return took;
}

/** Begins to note how long pictures of the screen are apart; if `forBlanks`, also whether lines are missing on them. */
export async function watch(page: Page, { forBlanks }: { forBlanks: boolean }): Promise<void> {
  await page.evaluate((isLooking) => {
    window.gaps = [];
    window.blanks = 0;
    let last = performance.now();
    const grid = isLooking && document.querySelector('[role=grid]');
    const look = (now: number) => {
      window.gaps.push(now - last);
      last = now;
      requestAnimationFrame(look);
      if (!grid) return;
      const { left, top, bottom } = grid.getBoundingClientRect();
      for (let y = top + 50; y < bottom - 10; y += 30) {
        if (document.elementFromPoint(left + 300, y)?.closest('[role=row]')) continue;
        window.blanks++;
        break;
      }
    };
    requestAnimationFrame(look);
  }, forBlanks);
}

export const watched = (page: Page): Promise<{ gaps: number[]; blanks: number }> =>
  page.evaluate(() => ({ gaps: window.gaps, blanks: window.blanks }));
