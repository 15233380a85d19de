import { writeFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import { makeZip } from '../../tools/made/zip';
import { open, test } from './page';
import { place } from './place';
import { openShape, projectWith, stateOf, wav } from './shaping';
import { sine } from '../core/signals';

const RATE = 48_000;
const tone = (hz: number, seconds = 1) => wav([sine(RATE, hz, RATE * seconds, 0.3)], RATE);

test('a project is renamed, copied, deleted, and had back', async ({ page, request }) => {
  const { project } = await projectWith(request, 'Reef', { 'one.wav': tone(300) });
  await open(page, `/p/${project}/collect`);
  const menu = page.getByRole('button', { name: /^Project:/ });
  await menu.click();
  await page.getByRole('button', { name: 'Rename', exact: true }).click();
  await page.keyboard.type('Marrow');
  await page.keyboard.press('Enter');
  await expect(menu).toHaveText(/Marrow/);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(menu).toHaveText(/Reef/);
  await menu.click();
  await page.getByRole('button', { name: 'Copy', exact: true }).click();
  await expect(menu).toHaveText(/Reef copy/);
  await expect(page.getByRole('link', { name: 'one', exact: true })).toBeVisible();
  await menu.click();
  await page.getByRole('button', { name: 'Delete', exact: true }).click();
  await expect(page.getByText('“Reef copy” was deleted.')).toBeVisible();
  await expect(menu).not.toHaveText(/Reef copy/);
  await menu.click();
  const deleted = page.getByRole('region', { name: 'Deleted projects' });
  await deleted.getByRole('button', { name: 'Bring Reef copy back' }).click();
  await expect(menu).toHaveText(/Reef copy/);
  await expect(page.getByRole('link', { name: 'one', exact: true })).toBeVisible();
  await menu.click();
  await page.getByRole('button', { name: 'Delete', exact: true }).click();
  await expect(menu).not.toHaveText(/Reef copy/);
  await menu.click();
  await deleted.getByRole('button', { name: 'Delete Reef copy for good, with its files' }).click();
  await expect(page.getByText('“Reef copy” is gone, with its files.')).toBeVisible();
});

test('a time says how it is understood before it is left; going into it marks all; both ends at once', async ({
  page,
  request,
}) => {
  const { project, ids } = await projectWith(request, 'Times', { 'long.wav': tone(300, 30) });
  await openShape(page, project, ids[0]!);
  const marked = page.getByRole('region', { name: 'Marked part' });
  const start = marked.getByRole('textbox', { name: 'Start', exact: true });
  await start.click();
  await page.keyboard.type('0.010');
  await page.keyboard.press('Enter');
  await expect(start).toHaveValue('0:00.010');
  await start.click();
  await page.keyboard.type('10');
  await expect(start).toHaveValue('10');
  await expect(marked).toContainText('0:10.000 · frame 480,000');
  await page.keyboard.press('Enter');
  await expect(start).toHaveValue('0:10.000');
  // Escape gives up what was typed, and the mark stays.
  await start.click();
  await page.keyboard.type('9');
  await page.keyboard.press('Escape');
  await expect(start).toHaveValue('0:10.000');
  await marked.getByRole('textbox', { name: 'Length' }).click();
  await page.keyboard.type('1f');
  await expect(marked).toContainText('1 frame');
  await expect(marked).not.toContainText('1 frames');
  await page.keyboard.press('Escape');
  await page.getByRole('heading', { name: 'Shape' }).click();
  await page.keyboard.press('j');
  await page.keyboard.type('12-25.5');
  await expect(marked).toContainText('0:12.000 to 0:25.500 · 648,000 frames');
  await page.keyboard.press('Enter');
  await expect(marked.getByRole('textbox', { name: 'End', exact: true })).toHaveValue('0:25.500');
  await page.keyboard.press('j');
  await page.keyboard.type('12-40');
  await expect(marked).toContainText('The sound ends at 0:30.000.');
});

test('joining: letters only search, and all gaps are what they are', async ({ page, request }) => {
  const { project, ids } = await projectWith(request, 'Gaps', {
    'a.wav': tone(300),
    'b.wav': tone(400),
    'c.wav': tone(500),
  });
  await open(page, `/p/${project}/shape/join?sounds=${ids.slice(0, 2).join(',')}`);
  const parts = page.getByRole('list', { name: 'Parts' }).getByRole('listitem');
  await page.getByRole('button', { name: 'Add a sound to the join' }).click();
  await page.keyboard.type('c');
  await expect(parts).toHaveCount(2);
  await page.keyboard.press('Enter');
  await expect(parts).toHaveCount(3);
  await page.keyboard.press('Escape');
  const all = page.getByRole('textbox', { name: 'All gaps' });
  await page.getByRole('textbox', { name: 'Gap behind part 1' }).fill('0.5');
  await page.keyboard.press('Enter');
  await expect(all).toHaveValue('');
  await expect(page.getByText('different')).toBeVisible();
  await all.fill('0.25');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('textbox', { name: 'Gap behind part 2' })).toHaveValue('0.25');
  await expect(page.getByText('different')).toBeHidden();
});

test('an empty archive is mentioned; one listed sound is called one', async ({ page, request }) => {
  const { project } = await projectWith(request, 'Small', { 'only.wav': tone(300) });
  await open(page, `/p/${project}/collect`);
  const path = place('nothing.zip');
  writeFileSync(path, makeZip([]));
  await page.getByTestId('files').setInputFiles([path]);
  const told = page.getByRole('region', { name: 'What was brought in' });
  await expect(told).toContainText('1 empty archive. There is no file in it. nothing.zip');
  await expect(page.getByRole('button', { name: 'The listed sound' })).toBeVisible();
});

test('a reload while sending goes on in the tab that was reloaded', async ({
  page,
  context,
  request,
}) => {
  const made = await request.post('/api/projects', { data: { name: 'Reloaded' } });
  const project = ((await made.json()) as { id: number }).id;
  const other = await context.newPage();
  for (const one of [page, other]) await open(one, `/p/${project}/collect`);
  let isOtherSending = false;
  other.on('request', (sent) => {
    if (sent.url().includes('/api/arrivals/')) isOtherSending = true;
  });
  await page.route('**/api/arrivals/*', async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 120));
    await route.continue().catch(() => undefined);
  });
  const files = Array.from({ length: 30 }, (_, n) => {
    const path = place(`r${n}.wav`);
    writeFileSync(path, wav([sine(8_000, 200 + n, 400)], 8_000));
    return path;
  });
  await page.getByTestId('files').setInputFiles(files);
  await expect(page.getByRole('region', { name: 'Coming in' })).toContainText(/[1-9]\d* of 30/);
  await page.reload();
  await expect(page.getByRole('region', { name: 'Coming in' })).toBeVisible();
  const count = async () => (await stateOf(request, project)).sounds.length;
  await expect.poll(count).toBe(30);
  expect(isOtherSending).toBe(false);
  await other.close();
});

describeFirstJob('by mouse', 15, async (page, begin) => {
  await page.getByRole('button', { name: 'Bring in files' }).click();
  await begin();
  await page.getByRole('link', { name: 'surf', exact: true }).click();
  await page
    .getByRole('region', { name: 'Marked part' })
    .getByLabel('Start', { exact: true })
    .click();
  await page.keyboard.type('10-25.5');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  for (const name of ['Fade out', 'Normalise']) {
    await page.getByRole('button', { name: 'Add a step' }).click();
    const panel = page.getByRole('group', { name: 'Add a step' });
    await panel.getByRole('button', { name: new RegExp(`^${name}`) }).click();
  }
  await page.getByRole('button', { name: 'Send to destinations' }).click();
  await page.getByRole('button', { name: 'Web page', exact: true }).click();
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'Web page', exact: true }).click();
  await page
    .getByRole('complementary', { name: 'surf at Web page' })
    .getByRole('button', { name: 'Build' })
    .click();
  await page.getByRole('button', { name: 'Play surf.ogg' }).click();
  return () => page.getByRole('link', { name: 'Download surf.ogg' }).click();
});

describeFirstJob('by keys', 40, async (page, begin) => {
  await begin();
  // The last of the three by name.
  for (const key of ['End', 'Enter']) await page.keyboard.press(key);
  await expect(page.getByRole('heading', { name: 'Shape' })).toBeVisible();
  await page.keyboard.press('j');
  await page.keyboard.type('10-25.5');
  for (const key of ['Enter', 'Enter']) await page.keyboard.press(key);
  for (const letters of ['fade o', 'nor']) {
    await page.keyboard.press('a');
    await page.keyboard.type(letters);
    await page.keyboard.press('Enter');
  }
  for (const key of ['e', 'Tab', 'Enter', 'Escape']) await page.keyboard.press(key);
  await expect(page.getByRole('link', { name: 'Web page', exact: true })).toBeVisible();
  await page.keyboard.press('4');
  await expect(page.getByRole('button', { name: 'Build everything' })).toBeEnabled();
  await page.keyboard.press('b');
  await expect(page.getByRole('gridcell', { name: 'surf at Web page: built' })).toBeVisible();
  await page.keyboard.press('h');
  return () => page.keyboard.press('d');
});

/** The whole first job of somebody, from three files to a finished one in the hand, counting what it takes. */
function describeFirstJob(
  how: string,
  most: number,
  work: (page: Page, begin: () => Promise<void>) => Promise<() => Promise<void>>,
): void {
  test(`the whole first job, ${how}`, async ({ page, request }) => {
    const made = await request.post('/api/projects', { data: { name: `First ${how}` } });
    const project = ((await made.json()) as { id: number }).id;
    await open(page, `/p/${project}/collect`);
    let presses = 0;
    await page.exposeFunction('pressed', () => void presses++);
    const kind = how === 'by mouse' ? 'pointerdown' : 'keydown';
    await page.evaluate((type) => {
      addEventListener(type, () => (window as unknown as { pressed(): void }).pressed(), true);
    }, kind);
    const download = page.waitForEvent('download', { timeout: 100_000 });
    const finish = await work(page, async () => {
      const files = { bell: 3, latch: 1, surf: 30 };
      const paths = Object.entries(files).map(([name, seconds]) => {
        const path = place(`${name}.wav`);
        writeFileSync(path, tone(200 + name.length * 50, seconds));
        return path;
      });
      await page.getByTestId('files').setInputFiles(paths);
      await expect(page.getByRole('row').filter({ hasText: 'surf' })).toContainText('0:30.000');
    });
    await expect(page.getByRole('region', { name: 'Listening' })).toHaveAttribute(
      'data-playing',
      'true',
    );
    await finish();
    expect(await (await download).createReadStream()).toBeTruthy();
    const isBuilt = async () => (await stateOf(request, project)).cells[0]?.state;
    await expect.poll(isBuilt).toBe('built');
    const { sounds, cells } = await stateOf(request, project);
    const surf = sounds.find(({ name }) => name === 'surf')!;
    expect(surf.recipe.steps.map((step) => step.kind)).toEqual(['keep', 'fade-out', 'normalise']);
    expect(surf.recipe.steps[0]!.params).toEqual({ startFrame: 480_000, endFrame: 1_224_000 });
    expect(cells).toMatchObject([{ soundId: surf.id, briefId: 'web-page', state: 'built' }]);
    process.stdout.write(`      measured · first job ${how}: ${presses} of ${most}\n`);
    expect(presses).toBeLessThanOrEqual(most);
  });
}
