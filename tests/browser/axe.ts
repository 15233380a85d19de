import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

/** What another theme can break. */
const COLOURS = ['color-contrast', 'link-in-text-block'] as const;

interface Looked {
  rules?: readonly string[] | undefined;
  within?: string | undefined;
}

/** What axe finds on a page: each rule with what breaks it. What passes is only counted, which takes half of the time. */
async function faults(page: Page, { rules, within }: Looked = {}) {
  let builder = new AxeBuilder({ page }).options({ resultTypes: ['violations'] });
  if (rules) builder = builder.withRules([...rules]);
  if (within) builder = builder.include(within);
  const { violations, passes, incomplete } = await builder.analyze();
  const looked = [...violations, ...passes, ...incomplete].map(({ id }) => id);
  expect(looked).toContain('color-contrast');
  return violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html.slice(0, 160))]);
}

/** What comes or goes is paler on the way: a message that was just put up or taken away. */
async function still(page: Page): Promise<void> {
  await page.evaluate(() =>
    Promise.allSettled(
      document
        .getAnimations()
        .filter(({ effect, playState, timeline }) => {
          // What follows the scrolling has no end of its own.
          const isInTime = playState === 'running' && timeline instanceof DocumentTimeline;
          return isInTime && effect?.getComputedTiming().endTime !== Infinity;
        })
        .map(({ finished }) => finished),
    ),
  );
}

/** Axe finds nothing on the page as it is. */
export async function expectNoFaults(page: Page): Promise<void> {
  await still(page);
  expect(await faults(page)).toEqual([]);
}

/** The same in both themes, on all of the page or within a part; the dark one is left on. */
export async function expectNoFaultsInThemes(page: Page, within?: string): Promise<void> {
  for (const [colorScheme, rules] of [['light'], ['dark', COLOURS]] as const) {
    await page.emulateMedia({ colorScheme });
    await still(page);
    expect(await faults(page, { rules, within })).toEqual([]);
  }
}

/** Nothing makes the page wider than a narrow window. */
export async function expectNarrow(page: Page): Promise<void> {
  const size = page.viewportSize()!;
  await page.setViewportSize({ ...size, width: 480 });
  const wide = await page.evaluate(() => document.documentElement.scrollWidth);
  expect(wide).toBeLessThanOrEqual(480);
  await page.setViewportSize(size);
}
