import { writeFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import { open, test } from './page';
import { place } from './place';
import { projectWith, stateOf, steps, wav } from './shaping';
import { sine } from '../core/signals';

const RATE = 8_000;

const many = (count: number, seconds = 0.05) =>
  Object.fromEntries(
    Array.from({ length: count }, (_, n) => [
      `sound ${n}.wav`,
      wav([sine(RATE, 200 + n, Math.round(RATE * seconds))], RATE),
    ]),
  );

/** Presses of the mouse on a page. */
async function countingClicks(page: Page): Promise<() => Promise<number>> {
  await page.evaluate(() => {
    let clicks = 0;
    addEventListener('pointerdown', () => void clicks++, true);
    Object.assign(window, { clicks: () => clicks });
  });
  return () => page.evaluate(() => (window as unknown as { clicks(): number }).clicks());
}

test('sixty sounds are sent in four clicks at most, from Collect and at Pack', async ({
  page,
  request,
}) => {
  const { project } = await projectWith(request, 'Sixty', many(60));
  const sent = async (brief: string) =>
    (await stateOf(request, project)).cells.filter(({ briefId }) => briefId === brief).length;
  await open(page, `/p/${project}/collect`);
  const fromCollect = await countingClicks(page);
  await page.getByRole('button', { name: 'All 60 listed sounds' }).click();
  await page.getByRole('button', { name: 'Send to destinations' }).click();
  await page.getByRole('button', { name: 'Web page', exact: true }).click();
  await expect.poll(() => sent('web-page')).toBe(60);
  expect(await fromCollect()).toBeLessThanOrEqual(4);

  await open(page, `/p/${project}/pack/destinations`);
  const atPack = await countingClicks(page);
  await page.getByRole('button', { name: 'Add sounds to AR filter' }).click();
  await page.getByRole('button', { name: 'Tick all (60)' }).click();
  await page.getByRole('button', { name: 'Send 60 sounds', exact: true }).click();
  await expect.poll(() => sent('ar-filter')).toBe(60);
  expect(await atPack()).toBeLessThanOrEqual(4);
  process.stdout.write(`      measured · sending 60 sounds: ${await atPack()} clicks\n`);
  // One step of the history.
  await page.keyboard.press('Control+z');
  await expect.poll(() => sent('ar-filter')).toBe(0);
  expect(await sent('web-page')).toBe(60);
  // From the page that shapes them all, by a key.
  await open(page, `/p/${project}/collect`);
  for (const key of ['Control+a', 's']) await page.keyboard.press(key);
  await expect(page.getByText('60 sounds chosen')).toBeVisible();
  for (const key of ['e', 'Enter']) await page.keyboard.press(key);
  await expect.poll(() => sent('ar-filter')).toBe(60);
});

test('what cannot take the steps keeps what it had, as the preview says; both numbers are told', async ({
  page,
  request,
}) => {
  const long = (n: number) => wav([sine(RATE, 200 + n, RATE, 0.2)], RATE);
  const { project, ids } = await projectWith(request, 'Short', {
    'a.wav': long(1),
    'b.wav': long(2),
    'tick.wav': wav([sine(RATE, 900, 400, 0.2)], RATE),
    'tock.wav': wav([sine(RATE, 700, 400, 0.2)], RATE),
  });
  await open(page, `/p/${project}/shape/several?sounds=${ids.join(',')}`);
  await page.keyboard.press('a');
  await page.keyboard.type('normalise');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Set step 1' }).click();
  const step = steps(page).first();
  await step.getByLabel('What', { exact: true }).selectOption('lufs');
  // Each measure has its own usual target, and loudness a ceiling.
  await expect(step.getByLabel('To', { exact: true })).toHaveValue('−16');
  await expect(step.getByLabel('True peak at most')).toHaveValue('−1');
  await expect(page.getByRole('button', { name: 'Apply to 4 sounds' })).toBeEnabled();
  await step.getByLabel('If it is shorter than 0.4 s').selectOption('refuse');
  await expect(page.getByText('2 sounds cannot take them and are left as they are')).toBeVisible();
  await page.getByRole('button', { name: 'Apply to 2 sounds' }).click();
  await expect(
    page.getByText(
      'Steps applied to 2 sounds; 2 sounds cannot take them and are left as they are.',
    ),
  ).toBeVisible();
  const counts = (await stateOf(request, project)).sounds.map(({ recipe }) => recipe.steps.length);
  expect(counts).toEqual([1, 1, 0, 0]);
});

test('thousands of chosen sounds go to the page that works on them', async ({ page, request }) => {
  const { project } = await projectWith(request, 'Thousands', many(150));
  await open(page, `/p/${project}/collect`);
  await page.keyboard.press('Control+a');
  await page.keyboard.press('s');
  await expect(page.getByText('150 sounds chosen')).toBeVisible();
  expect(page.url().length).toBeLessThan(200);
  await page.reload();
  await expect(page.getByText('150 sounds chosen')).toBeVisible();
  await open(page, `/p/${project}/collect`);
  await page.keyboard.press('Control+a');
  await page.keyboard.press('j');
  await expect(page.getByText('150 parts make')).toBeVisible();
});

test('two slow files hold no others back', async ({ page, request }) => {
  const made = await request.post('/api/projects', { data: { name: 'Slow' } });
  const project = ((await made.json()) as { id: number }).id;
  await open(page, `/p/${project}/collect`);
  // A quarter of an hour each, and three that are quick.
  const slow = wav([sine(RATE, 300, RATE * 900, 0.3)], RATE);
  const files = ['slow a', 'slow b', 'quick a', 'quick b', 'quick c'].map((name, n) => {
    const path = place(`${name}.wav`);
    const bytes = name.startsWith('slow') ? slow : wav([sine(RATE, 400 + n, 800)], RATE);
    writeFileSync(path, name.startsWith('slow') ? withNumber(bytes, n) : bytes);
    return path;
  });
  await page.getByTestId('files').setInputFiles(files);
  const row = (name: string) =>
    page.getByRole('row').filter({ has: page.getByRole('link', { name, exact: true }) });
  await expect(row('slow a')).toBeVisible();
  for (const name of ['quick a', 'quick b', 'quick c']) {
    await expect(row(name)).toContainText('0:00.100');
  }
});

/** Another file of the same sound. */
function withNumber(bytes: Buffer, n: number): Buffer {
  const copy = Buffer.from(bytes);
  copy[copy.length - 2] = n;
  return copy;
}

test('a choice of what is done about clipping is one click, at Shape and at Pack', async ({
  page,
  request,
}) => {
  const peaky = sine(RATE, 300, 2 * RATE, 0.02);
  for (let i = 0; i < 8; i++) peaky[8_000 + i] = i % 2 ? -0.9 : 0.9;
  const { project, ids } = await projectWith(request, 'Clipping', {
    'loud.wav': wav([peaky], RATE),
  });
  await request.patch(`/api/sounds/${ids[0]}`, {
    data: {
      recipe: {
        version: 1,
        steps: [{ kind: 'normalise', on: true, params: { to: 'lufs', target: -16 } }],
      },
    },
  });
  await request.put(`/api/sounds/${ids[0]}/assignments/wav-master`, { data: {} });
  // In the cell: a decision, never met.
  await open(page, `/p/${project}/pack/destinations#wav-master`);
  const brief = page.getByRole('region', { name: 'WAV master' });
  await expect(brief).toContainText(/Its loudest moment lies [\d.]+ dB above full scale/);
  await expect(brief.getByRole('button', { name: 'Build' })).toBeDisabled();
  await expect(brief).toContainText('1 sound would clip here.');
  await brief.getByRole('radio', { name: 'Limit loud moments' }).click();
  await expect(brief).toContainText('The loud moments are turned down to −1 dBTP, as chosen.');
  await brief.getByRole('button', { name: 'Build' }).click();
  await expect(brief).toContainText('The brief is met.');
  await expect(brief).toContainText(/peak −1\.\d dBFS/);
  // At Shape: said above the steps, with one press that cures it.
  await open(page, `/p/${project}/shape/${ids[0]}`);
  const warning = page.getByText(/It would clip: its peaks lie [\d.]+ dB above full scale/);
  await expect(warning).toBeVisible();
  await page.getByRole('button', { name: 'Give the normalising a ceiling of −1 dBTP' }).click();
  await expect(warning).toBeHidden();
  await expect(steps(page).first()).toContainText('at most −1 dBTP');
});

test('a level that a mixdown changes is said, and brought about behind it by one press', async ({
  page,
  request,
}) => {
  const { project, ids } = await projectWith(request, 'Mixed', {
    'wide.wav': wav([sine(RATE, 300, RATE, 0.5), sine(RATE, 470, RATE, 0.4)], RATE),
  });
  const normalise = { kind: 'normalise', on: true, params: { to: 'true-peak', target: -1 } };
  await request.patch(`/api/sounds/${ids[0]}`, {
    data: { recipe: { version: 1, steps: [normalise] } },
  });
  await request.put(`/api/sounds/${ids[0]}/assignments/pocket-toy`, { data: {} });
  await open(page, `/p/${project}/pack/destinations#pocket-toy`);
  const brief = page.getByRole('region', { name: 'Pocket toy' });
  await expect(brief).toContainText(
    'Normalised to −1 dBTP before mixing its channels: the file will have another level.',
  );
  await brief.getByRole('button', { name: 'Build' }).click();
  await expect(brief).toContainText(/Its level is −[\d.]+ dBTP, not −1/);
  await brief.getByRole('checkbox', { name: 'Normalise behind the conversion' }).check();
  await expect(brief).toContainText('once more behind mixing its channels, as chosen');
  await brief.getByRole('button', { name: 'Build' }).click();
  await expect(brief).toContainText(/peak −(0\.9|1\.\d) dBFS. The brief is met/);
  await expect(brief).not.toContainText('Its level is');
});
