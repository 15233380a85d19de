import { expect } from '@playwright/test';
import { open, test } from './page';
import { openShape, projectWith, stateOf, wav } from './shaping';
import { sine } from '../core/signals';

const RATE = 8_000;
const tone = (hz: number) => wav([sine(RATE, hz, RATE)], RATE);
const two = () => ({ 'one.wav': tone(300), 'two.wav': tone(400) });

test('a message lies over no button of the frame, goes by itself, and takes back its own change', async ({
  page,
  request,
}) => {
  const { project, ids } = await projectWith(request, 'Slips', two());
  await open(page, `/p/${project}/collect`);
  await page.getByRole('row').nth(1).getByText('mono').click();
  await page.keyboard.press('Delete');
  const slip = page.locator('[data-sonner-toast]');
  await expect(slip).toContainText('taken out');
  await page.waitForTimeout(500);
  const box = (await slip.boundingBox())!;
  for (const name of [/^Undo: /, /^(Nothing to do|Do) again/, 'Keyboard shortcuts', 'Play']) {
    const other = (await page.getByRole('button', { name, exact: true }).first().boundingBox())!;
    const apart =
      other.x + other.width <= box.x ||
      box.x + box.width <= other.x ||
      other.y + other.height <= box.y ||
      box.y + box.height <= other.y;
    expect([String(name), apart]).toEqual([String(name), true]);
  }
  // Something newer on the same sound stands on it: said, and nothing is done.
  await request.post(`/api/projects/${project}/edits`, {
    data: { edits: [{ soundId: ids[0], note: 'newer' }] },
  });
  await slip.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/newer changes stand on it/)).toBeVisible();
  expect((await stateOf(request, project)).sounds).toHaveLength(1);
  // What is pointed at stays.
  await page.mouse.move(600, 400);
  await expect(slip).toHaveCount(0);
});

test('sending, releasing and choosing are undone and done again at Pack', async ({
  page,
  request,
}) => {
  const { project, ids } = await projectWith(request, 'Sent', {
    'duo.wav': wav([sine(RATE, 300, RATE), sine(RATE, 470, RATE)], RATE),
  });
  await openShape(page, project, ids[0]!);
  await page.keyboard.press('a');
  await page.keyboard.type('reverse');
  await page.keyboard.press('Enter');
  await page.keyboard.press('e');
  await page.getByRole('button', { name: 'AR filter' }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'AR filter' })).toBeHidden();
  await page.getByRole('link', { name: 'AR filter' }).click();
  const entry = page.getByRole('complementary', { name: 'duo at AR filter' });
  await entry.getByRole('radio', { name: 'Keep right' }).click();
  await expect(entry).toContainText('Only the right channel is kept, as chosen.');
  await page.getByRole('heading', { name: 'Pack', exact: true }).click();
  await page.keyboard.press('Control+z');
  await expect(entry).toContainText('unless you keep just one');
  await page.keyboard.press('Control+z');
  await expect(entry).toBeHidden();
  // The step of the recipe is next, and was not touched.
  const state = await stateOf(request, project);
  expect(state.sounds[0]!.recipe.steps).toHaveLength(1);
  expect(state.history.undo?.title).toMatch(/reverse/i);
  await page.keyboard.press('Control+y');
  await page.keyboard.press('Control+y');
  await expect(entry).toContainText('Only the right channel is kept, as chosen.');
  await entry.getByRole('button', { name: 'Release' }).click();
  await expect(entry).toBeHidden();
  await page.keyboard.press('Control+z');
  await expect(entry).toContainText('Only the right channel is kept, as chosen.');
});

test('two tabs see every change, also after a connection came back; eight work', async ({
  page,
  context,
  request,
}) => {
  const { project, ids } = await projectWith(request, 'Tabs', two());
  const rename = (name: string) =>
    request.post(`/api/projects/${project}/edits`, {
      data: { edits: [{ soundId: ids[0], name }] },
    });
  const pages = [page];
  while (pages.length < 8) pages.push(await context.newPage());
  for (const one of pages) await open(one, `/p/${project}/collect`);
  await rename('first');
  for (const one of pages) {
    await expect(one.getByRole('link', { name: 'first', exact: true })).toBeVisible();
  }
  // Cut off, whoever listens for the others; what is done meanwhile is seen when it is back.
  await context.setOffline(true);
  await rename('second');
  await page.waitForTimeout(1_200);
  await context.setOffline(false);
  for (const one of pages.slice(0, 2)) {
    await expect(one.getByRole('link', { name: 'second', exact: true })).toBeVisible();
  }
  await rename('third');
  for (const one of pages) {
    await expect(one.getByRole('link', { name: 'third', exact: true })).toBeVisible();
  }
  for (const one of pages.slice(1)) await one.close();
});
