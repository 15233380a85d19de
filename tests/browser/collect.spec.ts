import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, type Page } from '@playwright/test';
import Papa from 'papaparse';
import wavefile from 'wavefile';
import { makeZip } from '../../tools/made/zip';
import { hydrated, test } from './page';
import { place } from './place';

/** A tone as an independent package writes it, behind as much silence as is wanted. */
function toneBytes(hz: number, { seconds = 1, silence = 0, rateHz = 22_050 } = {}): Uint8Array {
  const quiet = Math.round(silence * rateHz);
  const frames = Math.round(seconds * rateHz);
  const file = new wavefile.WaveFile();
  const samples = Array.from({ length: quiet + frames }, (_, i) =>
    i < quiet ? 0 : Math.round(12_000 * Math.sin((2 * Math.PI * hz * (i - quiet + 1)) / rateHz)),
  );
  file.fromScratch(1, rateHz, '16', [samples]);
  return file.toBuffer();
}

function put(path: string, content: Uint8Array | string): string {
  const whole = place(path);
  mkdirSync(join(whole, '..'), { recursive: true });
  writeFileSync(whole, content);
  return whole;
}

/** A project of one's own, so that stories do not meet. */
async function begin(page: Page, name: string): Promise<void> {
  const answer = await page.request.post('/api/projects', { data: { name } });
  const { id } = (await answer.json()) as { id: number };
  await page.goto(`/p/${id}/collect`);
  await expect(page.getByText('Drop a sound here to begin')).toBeVisible();
  await hydrated(page);
}

/** Chooses a folder; the browser opens it by itself, which its driver does not always notice. */
async function chooseFolder(page: Page, path: string): Promise<void> {
  await page
    .getByTestId('folder')
    .setInputFiles(path, { timeout: 2_000 })
    .catch(() => undefined);
}

const bringIn = (page: Page, ...files: string[]) => page.getByTestId('files').setInputFiles(files);
const row = (page: Page, name: string) =>
  page.getByRole('grid').getByRole('row').filter({ hasText: name });
const summary = (page: Page) => page.getByRole('region', { name: 'What was brought in' });
const strip = (page: Page) => page.getByRole('region', { name: 'Listening' });
const chosen = (page: Page) => page.getByRole('toolbar', { name: 'Chosen sounds' });

test('a folder and a zip with good and bad files come in, are told apart, and one is decided', async ({
  page,
}) => {
  await begin(page, 'Storm');
  for (const n of [1, 2, 10]) put(`storm/wind/gust ${n}.wav`, toneBytes(200 + n));
  put('storm/Donner – großes.wav', toneBytes(99));
  put('storm/letter.wav', 'Dear Sir');
  put('storm/cover.png', '\x89PNG');
  put('storm/.DS_Store', 'x');
  await chooseFolder(page, place('storm'));
  await expect(summary(page)).toContainText('4 added, 2 left out, 1 failed');
  await expect(summary(page)).toContainText('storm/letter.wav: It is text, not sound');
  await expect(summary(page)).toContainText('1 hidden file.');
  await page.getByTitle('Put the list in groups').selectOption({ label: 'By group' });
  await expect(page.getByRole('button', { name: 'storm/wind' })).toBeVisible();
  // Numbers in names count as numbers.
  const names = await page.getByRole('row').getByRole('link').allTextContents();
  expect(names).toEqual(['Donner – großes', 'gust 1', 'gust 2', 'gust 10']);

  const inner = makeZip([{ name: 'inner tone.wav', content: toneBytes(700) }]);
  const zip = makeZip([
    { name: 'wave.wav', content: toneBytes(600) },
    { name: 'gust 1.wav', content: toneBytes(201) },
    { name: '../../evil.wav', content: toneBytes(601) },
    { name: 'torn.wav', content: toneBytes(602), isDamaged: true },
    { name: 'more.zip', content: inner },
  ]);
  await bringIn(page, put('sea.zip', zip));
  await expect(summary(page)).toContainText('5 added, 1 here already, 3 left out, 2 failed');
  await expect(summary(page)).toContainText('sea/gust 1.wav is here already as “gust 1”');
  await expect(summary(page)).toContainText('sea/torn.wav: It is damaged inside its archive');
  await page.getByRole('button', { name: 'Unpack it too' }).click();
  await expect(summary(page)).toContainText('6 added');
  await page.reload();
  await expect(summary(page)).toContainText('sea/torn.wav: It is damaged inside its archive');
  await summary(page).getByRole('button', { name: 'Dismiss' }).click();
  await expect(summary(page)).toBeHidden();
  await expect(page.getByText(/^6 sounds, .* in all/)).toBeVisible();

  // The same name with other bytes: the source is replaced, everything else stays.
  await bringIn(page, put('again/wave.wav', toneBytes(603, { seconds: 2 })));
  await expect(summary(page)).toContainText('wave.wav has other bytes than the file of that name');
  await summary(page).getByRole('button', { name: 'Replace' }).click();
  await expect(summary(page)).toContainText('1 replaced');
  await expect(row(page, 'wave')).toContainText('0:02.000');
  await page.getByRole('button', { name: /^Undo: Replace the source of “wave”/ }).click();
  await expect(row(page, 'wave')).toContainText('0:01.000');
});

test('listening by keys: every sound is heard as soon as it is chosen', async ({ page }) => {
  await begin(page, 'Ears');
  await bringIn(
    page,
    ...[1, 2, 3].map((n) => put(`ears/tone ${n}.wav`, toneBytes(300 * n, { seconds: 5 }))),
  );
  await expect(summary(page)).toContainText('3 added');
  await page.getByRole('button', { name: 'Hear on choosing' }).click();
  for (const n of [1, 2, 3]) {
    await page.keyboard.press(n === 1 ? 'Home' : 'ArrowDown');
    await expect(strip(page)).toContainText(`tone ${n}`);
    await expect(strip(page)).toHaveAttribute('data-playing', 'true');
    await expect
      .poll(async () => Number(await strip(page).getAttribute('data-peak')))
      .toBeGreaterThan(0.2);
  }
  await page.keyboard.press('Space');
  await page.keyboard.press('h');
  await page.keyboard.press('ArrowUp');
  await expect(strip(page)).toContainText('tone 2');
  await expect(strip(page)).toHaveAttribute('data-playing', 'false');
  // From a place in the small picture.
  await row(page, 'tone 3')
    .getByTitle('Play from here')
    .click({ position: { x: 100, y: 10 } });
  await expect
    .poll(async () => Number(await strip(page).getAttribute('data-frame')))
    .toBeGreaterThan(60_000);
});

test('worries are filtered, cured on many, set aside; undo works across a reload', async ({
  page,
}) => {
  await begin(page, 'Worries');
  const late = [1, 2, 3].map((n) =>
    put(`late/late ${n}.wav`, toneBytes(6_000 + n, { silence: 0.5 })),
  );
  await bringIn(page, ...late, put('late/prompt.wav', toneBytes(6_100)));
  await expect(summary(page)).toContainText('4 added');
  const worries = page.getByRole('group', { name: 'Worries', exact: true });
  await worries.getByRole('button', { name: 'silence in front 3' }).click();
  await expect(page.getByText('3 sounds listed')).toBeVisible();
  await worries.getByRole('button', { name: 'What to do about' }).click();
  await page.getByRole('button', { name: 'Cure 3 sounds' }).click();
  await expect(page.getByText('No sound is like that')).toBeVisible();
  await page.getByRole('button', { name: 'Show all sounds' }).click();
  const chip = row(page, 'late 2').getByRole('button', { name: /silence in front/ });
  await expect(chip).toHaveAccessibleName(/cured by its recipe/);
  await page.reload();
  await expect(chip).toHaveAccessibleName(/cured by its recipe/);
  await hydrated(page);
  await page.keyboard.press('Control+z');
  await expect(chip).not.toHaveAccessibleName(/cured/);
  await chip.click();
  await expect(page.getByText(/Cure: keep .*0:00\.500/)).toBeVisible();
  await page.getByLabel('Or set it aside, with a note').fill('the door waits');
  await page.keyboard.press('Enter');
  await expect(chip).toHaveAccessibleName(/set aside/);
  await expect(worries.getByRole('button', { name: 'silence in front 2' })).toBeVisible();
  await expect(worries.getByRole('button', { name: 'set aside 1' })).toBeVisible();
});

test('order is kept: rename with a pattern, group, label, note, side by side, clean up', async ({
  page,
}) => {
  await begin(page, 'Order');
  await bringIn(
    page,
    ...[1, 2, 3].map((n) => put(`order/${n}.wav`, toneBytes(800 + n, { seconds: n }))),
  );
  await expect(summary(page)).toContainText('3 added');
  await page.keyboard.press('Control+a');
  await expect(chosen(page)).toContainText('3 sounds, 0:06.0 in all, 265 kB chosen');
  await page.keyboard.press('F2');
  const dialog = page.getByRole('dialog', { name: 'Rename 3 sounds' });
  await dialog.getByLabel('Pattern').fill('bell {n:2} {colour}');
  await expect(dialog).toContainText('{colour} means nothing');
  await dialog.getByLabel('Pattern').fill('bell {n:2}');
  await expect(dialog.getByRole('cell', { name: 'bell 03' })).toBeVisible();
  await dialog.getByRole('button', { name: 'Rename 3 sounds' }).click();
  await expect(dialog).toBeHidden();
  await expect(row(page, 'bell 03')).toBeVisible();

  await chosen(page).getByRole('button', { name: 'Group', exact: true }).click();
  await page
    .getByLabel('Group', { exact: true })
    .and(page.getByRole('combobox'))
    .fill('signals/bells');
  await page.getByRole('button', { name: 'Put in group' }).click();
  await chosen(page).getByRole('button', { name: 'Label', exact: true }).click();
  await page.getByLabel('New label').fill('far');
  await page.getByRole('button', { name: 'Add label' }).click();
  await row(page, 'bell 02').getByText('mono').click();
  await chosen(page).getByRole('button', { name: 'Note', exact: true }).click();
  await page.getByLabel('Note', { exact: true }).and(page.getByRole('combobox')).fill('too short?');
  await page.getByRole('button', { name: 'Keep note' }).click();
  await expect(page.getByRole('button', { name: 'Keep note' })).toBeHidden();
  await page.keyboard.press('/');
  await page.keyboard.type('far short');
  await expect(page.getByText('1 sound listed')).toBeVisible();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Delete');
  await page.getByRole('searchbox').press('Tab');

  await page.getByRole('searchbox', { name: 'Search' }).fill('');
  await row(page, 'bell 01').getByText('mono').click();
  await row(page, 'bell 03')
    .getByText('mono')
    .click({ modifiers: ['Control'] });
  await chosen(page).getByRole('button', { name: 'Side by side' }).click();
  const facts = page.getByRole('dialog', { name: 'Side by side' });
  await facts.getByLabel('Only what differs').check();
  await expect(facts.getByRole('row', { name: /Length/ })).toContainText('0:03.000');
  await expect(facts.getByRole('row', { name: /Rate/ }).filter({ hasText: 'kHz' })).toHaveCount(0);
  await facts.getByRole('button', { name: 'Close' }).click();

  await chosen(page).getByRole('button', { name: 'Take out' }).click();
  await page.getByRole('button', { name: 'Clean up' }).click();
  await expect(page.getByText('2 sounds that were taken out')).toBeVisible();
  await page.getByRole('button', { name: /^Free / }).click();
  await expect(page.getByText(/ freed\.$/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Nothing to undo' })).toBeDisabled();
});

test('the table: chosen, moved, sorted and filtered columns are remembered; the export holds what is listed', async ({
  page,
}) => {
  await begin(page, 'Table');
  const files = [4, 1, 3].map((n) =>
    put(`table/t${n}.wav`, toneBytes(500 + n, { seconds: n / 2 })),
  );
  await bringIn(page, ...files);
  await expect(summary(page)).toContainText('3 added');
  const heads = () => page.getByRole('columnheader').allTextContents();
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByRole('checkbox', { name: 'Bit rate' }).check();
  await page.getByRole('checkbox', { name: 'Goes to' }).uncheck();
  await page.getByRole('button', { name: 'Move Bit rate to the left' }).click();
  await page.keyboard.press('Escape');
  await page.getByRole('columnheader').getByRole('button', { name: 'Length', exact: true }).click();
  await page.getByRole('button', { name: 'Filter by Length' }).click();
  await page.getByLabel('At least s').fill('1');
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByRole('button', { name: 'Length at least 1 s' })).toBeVisible();
  const links = page.getByRole('row').getByRole('link');
  await expect(links).toHaveText(['t3', 't4']);
  const before = await heads();
  expect(before).toContain('Bit rate');
  expect(before).not.toContain('Goes to');
  await page.waitForTimeout(600);
  await page.reload();
  await expect(links).toHaveText(['t3', 't4']);
  expect(await heads()).toEqual(before);

  await page.getByRole('button', { name: 'Export the table' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'CSV' }).click();
  const { data } = Papa.parse<Record<string, string>>(
    readFileSync(await (await download).path(), 'utf8').trimEnd(),
    { header: true },
  );
  expect(data).toMatchObject([
    { name: 't3', seconds: '1.5', frames: '33075', sampleRateHz: '22050', format: 'WAV with PCM' },
    { name: 't4', seconds: '2', channels: '1', bytes: String(44 + 2 * 44_100) },
  ]);

  // Where the bytes are: pressing a part chooses it.
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Length at least 1 s' }).click();
  await page.keyboard.press('b');
  const sizes = page.getByRole('region', { name: 'Where the bytes are' });
  await sizes.getByRole('button', { name: /^t4, / }).click();
  await expect(chosen(page)).toContainText('1 sound');
  await expect(row(page, 't4')).toHaveAttribute('aria-selected', 'true');
});

test('a reload while files are being sent loses none of them', async ({ page }) => {
  await begin(page, 'Reload');
  const files = Array.from({ length: 60 }, (_, n) => put(`many/m${n}.wav`, toneBytes(300 + n)));
  await page.route('**/api/arrivals/*', async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 80));
    await route.continue().catch(() => undefined);
  });
  await bringIn(page, ...files);
  await expect(page.getByRole('region', { name: 'Coming in' })).toContainText(
    /[1-9]\d* of 60 files sent/,
  );
  await page.reload();
  await expect(summary(page)).toContainText('60 added');
  await expect(page.getByText(/^60 sounds, .* in all/)).toBeVisible();
});

test('files that are pasted come in; text that is pasted into a field does not', async ({
  page,
}) => {
  await begin(page, 'Clipboard');
  const base64 = Buffer.from(toneBytes(440)).toString('base64');
  await page.evaluate((text) => {
    const bytes = Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0));
    const clipboardData = new DataTransfer();
    clipboardData.items.add(new File([bytes], 'copied.wav'));
    document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true }));
  }, base64);
  await expect(row(page, 'copied')).toContainText('22.05 kHz');
});
