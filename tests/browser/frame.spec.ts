import { expect } from '@playwright/test';
import { sine } from '../core/signals';
import { open, test } from './page';
import { projectWith, wav } from './shaping';

test('Shape remembers at which sound one was', async ({ page }) => {
  await open(page, '/p/1/shape/4');
  await expect(page.getByRole('combobox', { name: 'Sound', exact: true })).toHaveValue('4');
  for (const key of ['1', '2']) await page.keyboard.press(key);
  await expect(page).toHaveURL(/\/shape$/);
  await expect(page.getByRole('combobox', { name: 'Sound', exact: true })).toHaveValue('4');
});

test('the sheet of shortcuts fits the window, begins with the station and is searched', async ({
  page,
}) => {
  await page.setViewportSize({ width: 1024, height: 600 });
  await open(page, '/p/1/pack/destinations');
  await page.keyboard.press('?');
  const sheet = page.getByRole('dialog', { name: 'Keyboard shortcuts' });
  await expect(sheet.getByRole('heading', { level: 3 }).first()).toHaveText('Pack');
  const box = (await sheet.locator('.modal-box').boundingBox())!;
  expect(box.y).toBeGreaterThanOrEqual(0);
  expect(box.y + box.height).toBeLessThanOrEqual(600);
  await page.keyboard.type('zero cross');
  await expect(sheet.getByRole('term')).toHaveText(['U', 'C']);
  await page.keyboard.press('Escape');
  await expect(sheet).toBeHidden();
});

test('a window of 900 pixels has header and strip in one row each', async ({ page }) => {
  await page.setViewportSize({ width: 900, height: 700 });
  await open(page, '/p/1/collect');
  await page.getByRole('row').nth(2).click();
  for (const part of [
    page.locator('header').first(),
    page.getByRole('region', { name: 'Listening' }),
  ]) {
    const { height } = (await part.boundingBox())!;
    expect(height).toBeLessThan(72);
  }
  const isScrolled = await page.evaluate(() => document.documentElement.scrollWidth > innerWidth);
  expect(isScrolled).toBe(false);
});

test('a long name is cut in its middle and whole for those who ask', async ({ page, request }) => {
  const name = `the storm over the outer skerries ${'on a winter night '.repeat(6)}take 12`;
  const { project } = await projectWith(request, 'Long names', {
    [`${name}.wav`]: wav([sine(8_000, 300, 8_000)], 8_000),
  });
  await open(page, `/p/${project}/collect`);
  const link = page.getByRole('link', { name: /^the storm over the outer skerries/ });
  const cell = (await link.boundingBox())!;
  const end = link.locator('[aria-hidden]').last();
  const { x, width } = (await end.boundingBox())!;
  // The end of the name is inside of its cell: the middle is what is missing.
  expect(x + width).toBeLessThanOrEqual(cell.x + cell.width + 1);
  await expect(end).toContainText('take 12');
});
