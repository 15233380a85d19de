import { expect } from '@playwright/test';
import { open, screens, test } from './page';

// While another worker keeps the machine busy, React itself begins again for every piece of a page that comes late.
test('a page is taken over once, not begun again and again', async ({ page }) => {
  await page.addInitScript(() => {
    const { parse } = JSON;
    Object.assign(window, { begun: 0 });
    JSON.parse = (text: string, ...rest) => {
      // What all sounds of the project are read from.
      if (text.includes('"sounds":{"count":')) (window as unknown as { begun: number }).begun++;
      return parse(text, ...rest) as unknown;
    };
  });
  for (const screen of screens) {
    await open(page, `/p/1/${screen}`);
    const begun = await page.evaluate(() => (window as unknown as { begun: number }).begun);
    expect(begun, screen).toBeGreaterThanOrEqual(1);
    expect(begun, screen).toBeLessThanOrEqual(3);
  }
});
