import AxeBuilder from '@axe-core/playwright';
import { expect } from '@playwright/test';
import { open, screens, test } from './page';

/** What another theme can break. */
const colourRules = ['color-contrast', 'link-in-text-block'];

for (const screen of screens) {
  test(`axe finds nothing on ${screen}, in both themes`, async ({ page }) => {
    const problems: string[] = [];
    page.on('console', (message) => message.type() === 'error' && problems.push(message.text()));
    page.on('pageerror', (error) => problems.push(error.message));
    await page.emulateMedia({ colorScheme: 'light' });
    await page.goto(`/p/1/${screen}`);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    const light = await new AxeBuilder({ page }).analyze();
    await page.emulateMedia({ colorScheme: 'dark' });
    await page.evaluate(() => Promise.all(document.getAnimations().map((one) => one.finished)));
    // Only colours are other than in the light.
    const dark = await new AxeBuilder({ page }).withRules(colourRules).analyze();
    expect(
      [...light.violations, ...dark.violations].map(({ id, nodes }) => [
        id,
        nodes.map(({ html }) => html.slice(0, 160)),
      ]),
    ).toEqual([]);
    expect(dark.passes.map(({ id }) => id)).toContain('color-contrast');
    expect(problems).toEqual([]);
  });
}

// A piece of a page that comes late must not make React begin again with all of it, however busy the machine is.
test('a page is taken over once', async ({ page }) => {
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
    expect(begun, screen).toBe(1);
  }
});

test('an empty project says how to begin, at every station', async ({ page }) => {
  await page.goto('/p/1/collect');
  await page.getByText('Marrow Skerry', { exact: false }).first().click();
  await page.getByLabel('Name of a new project').fill('Empty lantern');
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  await expect(page.getByText('Drop a sound here to begin')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: /Shape/ }).click();
  await expect(page.getByText('There is no sound to shape yet.', { exact: false })).toBeVisible();
  await page.getByRole('link', { name: /Pack/ }).click();
  await expect(page.getByText('There is no sound to pack yet.', { exact: false })).toBeVisible();
});

test('nothing is wider than a narrow window', async ({ page }) => {
  await page.setViewportSize({ width: 480, height: 800 });
  for (const screen of screens) {
    await page.goto(`/p/1/${screen}`);
    const wide = await page.evaluate(() => document.documentElement.scrollWidth);
    expect(wide, screen).toBeLessThanOrEqual(480);
  }
});

test('what is not there has its own page; foreign callers get none', async ({ page, request }) => {
  const missing = await page.goto('/p/999/collect');
  expect(missing!.status()).toBe(404);
  await expect(page.getByText('There is nothing here')).toBeVisible();
  const foreign = await request.get('/api/projects', {
    headers: { origin: 'http://evil.example' },
  });
  expect(foreign.status()).toBe(409);
  expect(await foreign.json()).toMatchObject({ error: { code: 'not-allowed' } });
  const policy = (await page.goto('/p/1/collect'))!.headers()['content-security-policy'];
  expect(policy).toContain("default-src 'self'");
  for (const bad of [
    'sounds/x',
    'sounds/1/peaks?start=0&end=99999999999999999999&columns=5',
    'sounds/1/pcm?start=-1&frames=4',
  ]) {
    const answer = await request.get(`/api/${bad}`);
    expect(answer.status()).toBeGreaterThanOrEqual(400);
    expect(answer.status()).toBeLessThan(500);
  }
});
