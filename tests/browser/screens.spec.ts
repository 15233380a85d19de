import { expect } from '@playwright/test';
import { expectNarrow, expectNoFaultsInThemes } from './axe';
import { open, screens, test } from './page';

for (const screen of screens) {
  test(`${screen} is taken over once, has no fault in either theme, and is nowhere too wide`, async ({
    page,
  }) => {
    const problems: string[] = [];
    page.on('console', (message) => message.type() === 'error' && problems.push(message.text()));
    page.on('pageerror', (error) => problems.push(error.message));
    await page.addInitScript(() => {
      const { parse } = JSON;
      Object.assign(window, { begun: 0 });
      JSON.parse = (text: string, ...rest) => {
        // What all sounds of the project are read from.
        if (text.includes('"sounds":{"count":')) (window as unknown as { begun: number }).begun++;
        return parse(text, ...rest) as unknown;
      };
    });
    await open(page, `/p/1/${screen}`);
    // A piece of a page that comes late must not make React begin again with all of it, however busy the machine is.
    const begun = await page.evaluate(() => (window as unknown as { begun: number }).begun);
    expect(begun).toBe(1);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await expectNoFaultsInThemes(page);
    await expectNarrow(page);
    expect(problems).toEqual([]);
  });
}

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
