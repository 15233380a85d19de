import { expect, type Page } from '@playwright/test';
import { sine } from '../core/signals';
import { open, test } from './page';
import { projectWith, stateOf, wav } from './shaping';

const RATE = 44_100;
const cell = (page: Page, sound: string, brief: string) =>
  page.getByRole('gridcell', { name: new RegExp(`^${sound} at ${brief}: `) });
const panel = (page: Page, sound: string, brief: string) =>
  page.getByRole('complementary', { name: `${sound} at ${brief}` });
const two = () => ({
  'Bell near.wav': wav([sine(RATE, 300, RATE, 0.5), sine(RATE, 470, RATE, 0.4)], RATE),
  'gull.wav': wav([sine(RATE, 900, RATE / 2, 0.3)], RATE),
});

test('the matrix by keys: sent, marked, chosen, built, released, undone', async ({
  page,
  request,
}) => {
  const { project, ids } = await projectWith(request, 'Keys of the matrix', two());
  await open(page, `/p/${project}/pack`);
  const state = () => stateOf(request, project);
  // From nowhere to the first line, and three columns on.
  for (const key of ['ArrowDown', 'ArrowRight', 'ArrowRight', 'ArrowRight', 'ArrowRight']) {
    await page.keyboard.press(key);
  }
  await page.keyboard.press('a');
  await expect(cell(page, 'Bell near', 'Game mod')).toHaveText('convert');
  // Columns that are used stay; the other one is sent there as well, by a rectangle.
  await expect(page.getByRole('columnheader')).toHaveCount(2);
  await page.keyboard.press('Shift+ArrowDown');
  await expect(page.getByRole('toolbar', { name: 'Marked cells' })).toContainText('2 cells marked');
  await page.keyboard.press('a');
  await expect(cell(page, 'gull', 'Game mod')).toHaveText('convert');
  await page.keyboard.press('c');
  for (const name of ['Bell near', 'gull']) {
    await expect(cell(page, name, 'Game mod')).toHaveAccessibleName(/: built\b/);
  }
  expect((await state()).cells.map(({ state: one }) => one)).toEqual(['built', 'built']);
  await page.keyboard.press('a');
  await expect.poll(async () => (await state()).cells).toEqual([]);
  await page.keyboard.press('Control+z');
  await expect(cell(page, 'gull', 'Game mod')).toHaveAccessibleName(/: built\b/);
  // One sound is hidden by what it is called, the other one by its state.
  await page.keyboard.press('/');
  await page.keyboard.type('gull');
  await expect(cell(page, 'Bell near', 'Game mod')).toBeHidden();
  await page.getByRole('searchbox', { name: 'Search sounds' }).fill('');
  await request.put(`/api/sounds/${ids[0]}/assignments/pocket-toy`, { data: {} });
  await page.getByRole('button', { name: /1 will be converted/ }).click();
  await expect(cell(page, 'gull', 'Game mod')).toBeHidden();
  await expect(cell(page, 'Bell near', 'Pocket toy')).toBeVisible();
});

test('a sound is dragged on a destination, and its cell opens to what will happen', async ({
  page,
  request,
}) => {
  const { project } = await projectWith(request, 'Dragged', two());
  await open(page, `/p/${project}/pack`);
  await page
    .getByRole('rowheader')
    .filter({ hasText: 'Bell near' })
    .dragTo(page.getByRole('columnheader', { name: 'Pocket toy' }));
  await expect(cell(page, 'Bell near', 'Pocket toy')).toHaveText('convert');
  await cell(page, 'Bell near', 'Pocket toy').dblclick();
  const opened = panel(page, 'Bell near', 'Pocket toy');
  await expect(opened).toContainText('44.1 kHz → 8 to 11.025 kHz, which the brief asks for');
  await expect(opened).toContainText(/correlation 0\.\d\d/);
  await expect(opened).toContainText('Where things stand goes: stereo becomes mono.');
  await expect(opened).toContainText('Depth goes: 16-bit becomes 8-bit, with dither.');
  await expect(opened).toContainText('bell_near.wav');
  // For this sound alone: in front of its name, another rate, one side.
  await opened.getByLabel('In front').fill('z_');
  await page.keyboard.press('Enter');
  await expect(opened).toContainText('z_bell_near.wav');
  await opened.getByRole('radio', { name: 'Keep left' }).click();
  await opened.getByText('For this sound alone').click();
  await opened.getByLabel('Sample rate').selectOption('8000');
  await expect(opened).toContainText('8 kHz, mono, 0:01.000');
  await opened.getByRole('button', { name: 'Build' }).click();
  await expect(opened).toContainText('The brief is met.');
  await opened.getByText(/^Verified: \d+ of \d+ demands met$/).click();
  await expect(opened.getByRole('row', { name: /sample rate/ })).toContainText('8 kHz');
  // Its address leads to it again.
  const address = page.url();
  await open(page, new URL(address).pathname + new URL(address).search);
  await expect(panel(page, 'Bell near', 'Pocket toy')).toContainText('z_bell_near.wav');
});

test('the doctor says who would take a file, and cures it', async ({ page, request }) => {
  const { project } = await projectWith(request, 'Ill', two());
  await open(page, `/p/${project}/pack/doctor`);
  const stereo = wav([sine(48_000, 300, 48_000, 0.3), sine(48_000, 500, 48_000, 0.3)], 48_000);
  await page.getByLabel('Files for the doctor').setInputFiles([
    { name: 'Harbour.wav', mimeType: 'audio/wav', buffer: stereo },
    { name: 'letter.wav', mimeType: 'audio/wav', buffer: Buffer.from('Dear keeper, '.repeat(9)) },
  ]);
  await expect(page.getByRole('alert').filter({ hasText: 'letter.wav' })).toContainText('text');
  const found = page.getByRole('article', { name: 'Harbour.wav' });
  await expect(found).toContainText('Nobody would take it as it is.');
  const filter = found
    .getByRole('listitem')
    .filter({ has: page.getByRole('heading', { name: 'AR filter' }) });
  await expect(filter).toContainText('It is WAV with PCM; the destination takes M4A with AAC.');
  await expect(filter).toContainText('It has 48 kHz; the destination takes 44.1 kHz.');
  await expect(filter).toContainText('It is stereo; the destination takes mono.');
  await filter.getByRole('button', { name: 'Cure it' }).click();
  const opened = panel(page, 'Harbour', 'AR filter');
  await expect(opened).toContainText('The brief is met.');
  expect((await stateOf(request, project)).sounds).toHaveLength(3);
});

test('a brief is found by questions, copied, written, compared and deleted', async ({
  page,
  request,
}) => {
  const { project } = await projectWith(request, 'Briefs', two());
  await open(page, `/p/${project}/pack/briefs`);
  await page.getByRole('radio', { name: 'in a small device or toy' }).click();
  await page.getByRole('radio', { name: 'every kilobyte counts' }).click();
  await page.getByRole('radio', { name: 'it ends' }).click();
  const questions = page.getByRole('region', { name: 'Which one do I need?' });
  await expect(questions.getByRole('status')).toHaveText('This one:');
  await questions.getByRole('button', { name: 'Pocket toy' }).click();
  await expect(page.getByRole('row', { name: /Sample rate/ })).toContainText('8 to 11.025 kHz');
  await page.getByRole('button', { name: 'Copy' }).click();
  await page.getByRole('button', { name: 'Edit' }).click();
  const form = page.getByRole('form', { name: /^Edit/ });
  await form.getByLabel('Title', { exact: true }).fill('Lamp box');
  await form.getByLabel('Sample rate from').fill('12000');
  await expect(form.getByRole('alert')).toContainText('at files[0].sampleRatesHz');
  await expect(form.getByRole('button', { name: 'Keep' })).toBeDisabled();
  await form.getByLabel('Sample rate from').fill('6000');
  await form.getByLabel('Largest file').fill('20000');
  await expect(form.getByRole('alert')).toBeHidden();
  await form.getByRole('button', { name: 'Keep' }).click();
  const shown = page.getByRole('article', { name: 'Lamp box' });
  await expect(shown).toContainText('version 2');
  await shown.getByLabel('Compare with').selectOption('pocket-toy');
  await expect(shown.getByRole('row')).toHaveCount(3);
  await expect(shown.getByRole('row', { name: /Sample rate/ })).toContainText('6 to 11.025 kHz');
  await shown.getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByRole('navigation', { name: 'Briefs' })).not.toContainText('Lamp box');
});

test('a file that works becomes a brief that takes it', async ({ page, request }) => {
  const { project } = await projectWith(request, 'Works', two());
  await open(page, `/p/${project}/pack/briefs`);
  const works = wav([sine(22_050, 300, 22_050, 0.3)], 22_050);
  await page
    .getByLabel('Begin from a file that works')
    .last()
    .setInputFiles([{ name: 'works.wav', mimeType: 'audio/wav', buffer: works }]);
  const shown = page.getByRole('article', { name: 'Like “works.wav”' });
  await expect(shown.getByRole('row', { name: /Sample rate/ })).toContainText('22.05 kHz');
  await expect(shown.getByRole('row', { name: /Channels/ })).toContainText('mono');
  await expect(shown.getByRole('row', { name: /Bit depth/ })).toContainText('16-bit');
});

test('a build is cancelled, tried again, compared with another one, and had again', async ({
  page,
  request,
}) => {
  const long = sine(RATE, 300, 70 * RATE, 0.3);
  const { project, ids } = await projectWith(request, 'Cancelled', {
    'long.wav': wav([long, long], RATE),
    'short.wav': wav([sine(RATE, 500, RATE, 0.3)], RATE),
  });
  for (const id of ids) await request.put(`/api/sounds/${id}/assignments/web-single`, { data: {} });
  await open(page, `/p/${project}/pack/builds`);
  await expect(page.getByText('Nothing has been built yet.')).toBeVisible();
  await page.getByRole('button', { name: 'Build everything' }).click();
  await page
    .getByRole('row', { name: /long\.mp3/ })
    .getByRole('button', { name: 'Cancel' })
    .click();
  const line = page.getByRole('row', { name: /web-single\/long\.mp3/ });
  await expect(line).toContainText('cancelled');
  await expect(page.getByRole('row', { name: /short\.mp3/ })).toContainText('÷');
  await line.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByRole('navigation', { name: 'Builds' }).getByRole('button')).toHaveCount(2);
  await expect(page.getByRole('row', { name: /long\.mp3/ })).toContainText('÷');
  await page.getByLabel('Compare with').selectOption({ index: 1 });
  await expect(page.getByRole('region', { name: 'What changed' })).toContainText(
    '1 no longer in it',
  );
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Have it again' }).click();
  expect((await download).suggestedFilename()).toBe(
    'Cancelled build 2.zip'.replace('2', String(await newest(page))),
  );
});

/** The number of the build that is shown. */
async function newest(page: Page): Promise<number> {
  const title = await page.getByRole('heading', { level: 2, name: /^Build \d+$/ }).textContent();
  return Number(title!.split(' ')[1]);
}
