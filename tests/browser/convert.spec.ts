import { execFileSync } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { expect, type Page } from '@playwright/test';
import { ForeignDecoders } from '../../tools/legality/foreign';
import { noise, sine } from '../core/signals';
import { expectNoFaultsInThemes } from './axe';
import { drop, expectPlaying, strip } from './dropping';
import { open, test } from './page';
import { place } from './place';
import { projectWith, stateOf, wav } from './shaping';

const RATE = 22_050;

const tone = (seconds: number, hz = 300, level = 0.4) =>
  wav([sine(RATE, hz, RATE * seconds, level)], RATE);
const sheet = (page: Page) => page.getByRole('dialog', { name: /^Convert/ });
const press = (page: Page, name: string | RegExp) => sheet(page).getByRole('button', { name });

/** What a download is, decoded by a stranger. */
async function downloaded(page: Page, click: () => Promise<void>) {
  const download = page.waitForEvent('download');
  await click();
  const saved = place((await download).suggestedFilename());
  await (await download).saveAs(saved);
  return { name: (await download).suggestedFilename(), bytes: readFileSync(saved) };
}

test('three clicks from a dropped file to a download; Space plays what was dropped', async ({
  page,
  request,
}) => {
  const { project } = await projectWith(request, 'First look', {});
  await open(page, `/p/${project}/collect`);
  await expect(page.getByText('Drop a sound here to begin')).toBeVisible();
  await drop(page, tone(5), 'lamp room.wav');
  await expect(page.getByRole('row', { name: /lamp room/ })).toHaveAttribute(
    'aria-selected',
    'true',
  );
  await page.keyboard.press('Space');
  await expectPlaying(page);
  await page.keyboard.press('Space');

  await page.getByRole('button', { name: 'Convert 1 sound' }).click();
  await expect(sheet(page).getByRole('status')).toContainText(/221 kB → (about )?\d/);
  await press(page, 'Convert it').click();
  const { name, bytes } = await downloaded(page, () =>
    sheet(page).getByRole('link', { name: 'Download', exact: true }).click(),
  );
  expect(name).toBe('lamp room.ogg');
  const decoders = await ForeignDecoders.open(await page.context().newPage());
  const [channel, ...others] = (await decoders.decode('ogg', 'vorbis', bytes, RATE))!;
  expect(others).toEqual([]);
  expect(Math.abs(channel!.length - 5 * RATE)).toBeLessThan(2_048);
  // Nothing was sent anywhere, and the sound is as it was.
  expect((await stateOf(request, project)).cells).toEqual([]);
  await expect(sheet(page)).toContainText('Ogg Vorbis, usual quality (5)');
});

test('the sheet says what will be before it is: sizes, changes, what is cut off; and cures it', async ({
  page,
  request,
}) => {
  const { project } = await projectWith(request, 'Sheet', {
    'gull.wav': tone(9),
    'gust.wav': wav([noise(9 * RATE, 4, 0.3), noise(9 * RATE, 5, 0.3)], RATE),
  });
  const { sounds } = await stateOf(request, project);
  const steps = [{ kind: 'gain', on: true, params: { gainDb: 12 } }];
  await request.patch(`/api/sounds/${sounds[0]!.id}`, { data: { recipe: { version: 1, steps } } });
  await open(page, `/p/${project}/collect`);
  for (const key of ['Control+a', 'z']) await page.keyboard.press(key);
  await sheet(page).getByText('WAV', { exact: true }).click();
  await expect(sheet(page).getByRole('status')).toHaveText(/^1\.19 MB → 1\.19 MB/);
  await expect(sheet(page)).toContainText('1 sound would be cut off at full scale, up to 4 dB');
  await press(page, 'Turn loud moments down').click();
  await expect(sheet(page)).not.toContainText('would be cut off');
  await sheet(page).getByText('MP3', { exact: true }).click();
  await expect(sheet(page)).toContainText('2 sounds encoded at 160 kbit/s in place of 192 kbit/s');
  // Only what all of them may have is offered.
  const rates = sheet(page).getByLabel('Bit rate or quality');
  await expect(rates.locator('option', { hasText: '320' })).toHaveCount(0);
  await rates.selectOption({ label: '64 kbit/s' });
  await sheet(page).getByLabel('Channels').selectOption({ label: 'mono, mixed' });
  await press(page, 'Convert 2 sounds').click();
  await expect(sheet(page).getByRole('link', { name: 'Download all 2' })).toBeVisible();
  const list = sheet(page).getByRole('list', { name: 'Converted files' });
  await expect(list.getByRole('listitem')).toHaveCount(2);

  // Before and after, at the same place.
  await list.getByRole('button', { name: 'Hear gust.mp3' }).click();
  await expect(strip(page)).toHaveAttribute('data-playing', 'true');
  await expect
    .poll(async () => Number(await strip(page).getAttribute('data-frame')))
    .toBeGreaterThan(4_000);
  await list.getByRole('button', { name: 'Hear gust before' }).click();
  await expect(list.getByRole('button', { name: 'Stop gust before' })).toBeVisible();
  expect(Number(await strip(page).getAttribute('data-frame'))).toBeGreaterThan(4_000);
  await list.getByRole('button', { name: 'Stop gust before' }).click();
  await expect(strip(page)).toHaveAttribute('data-playing', 'false');

  // What was chosen is offered again, and taken over only when it is pressed.
  await press(page, 'Close').click();
  await page.keyboard.press('z');
  await expect(sheet(page).getByLabel('Channels')).toHaveValue('');
  await press(page, /^As last time: MP3, bit rate 64 kbit\/s, mono, mixed/).click();
  await expect(sheet(page).getByLabel('Channels')).toHaveValue('mix');
  await press(page, 'What came of it').click();
  await expect(list.getByRole('listitem')).toHaveCount(2);
});

test('files that are dropped on the button are converted without being chosen', async ({
  page,
  request,
}) => {
  const { project } = await projectWith(request, 'On the button', { 'old.wav': tone(1, 500) });
  await open(page, `/p/${project}/collect`);
  await drop(page, tone(2, 700), 'fresh.wav', 'main button[aria-label="Convert"]');
  await expect(sheet(page).getByRole('list', { name: 'Sounds' })).toContainText('fresh');
  await expect(sheet(page).getByRole('list', { name: 'Sounds' })).not.toContainText('old');
  await press(page, 'Convert it').click();
  await expect(sheet(page).getByRole('link', { name: 'Download fresh.ogg' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(sheet(page)).toBeHidden();
});

test('at Shape the sound is converted behind its steps; axe finds nothing on the sheet', async ({
  page,
  request,
}) => {
  const { project, ids } = await projectWith(request, 'At Shape', { 'horn.wav': tone(3) });
  const steps = [{ kind: 'keep', on: true, params: { startFrame: 0, endFrame: RATE } }];
  await request.patch(`/api/sounds/${ids[0]!}`, { data: { recipe: { version: 1, steps } } });
  await open(page, `/p/${project}/shape/${ids[0]!}`);
  await page.keyboard.press('z');
  await expect(sheet(page).getByLabel('with its steps')).toBeChecked();
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await expectNoFaultsInThemes(page, 'dialog[open]');
  await sheet(page).getByText('WAV', { exact: true }).click();
  await press(page, 'Convert it').click();
  await expect(sheet(page)).toContainText('132 kB → 44.1 kB');
});

test('what the command line makes of odd rates is decoded by strangers, at the right speed', async ({
  page,
}) => {
  // Six calls, each with threads of its own.
  const rates = [4_000, 7_350, 11_000, 22_100, 37_800, 64_000];
  mkdirSync(place('odd'));
  for (const hz of rates)
    writeFileSync(place('odd', `${hz}.wav`), wav([sine(hz, 440, hz * 2, 0.4)], hz));
  const decoders = await ForeignDecoders.open(page);
  for (const [format, codec] of [
    ['ogg', 'vorbis'],
    ['ogg', 'opus'],
    ['mp3', 'mp3'],
    ['m4a', 'aac'],
    ['flac', 'flac'],
    ['webm', 'opus'],
  ] as const) {
    const out = place(`${format}-${codec}`);
    const call = [
      'bin/bijou',
      'convert',
      place('odd'),
      '--out',
      out,
      '--format',
      format,
      '--codec',
      codec,
      '--json',
    ];
    const results = JSON.parse(
      execFileSync(process.execPath, call, { cwd: resolve('.') }).toString(),
    ) as {
      output: string;
      sampleRateHz: number;
      container: string;
    }[];
    expect(results).toHaveLength(rates.length);
    for (const { output, sampleRateHz, container } of results) {
      const [channel] = (await decoders.decode(
        container,
        codec,
        readFileSync(output),
        sampleRateHz,
      ))!;
      const seconds = channel!.length / sampleRateHz;
      expect([output, Math.round(crossings(channel!) / 2 / seconds / 10) * 10]).toEqual([
        output,
        440,
      ]);
      expect(Math.abs(seconds - 2)).toBeLessThan(0.6);
    }
  }
});

/** How often a signal goes through zero. */
function crossings(samples: Float32Array): number {
  let found = 0;
  for (let i = 1; i < samples.length; i++) if (samples[i - 1]! < 0 !== samples[i]! < 0) found++;
  return found;
}

test('what was asked for is kept as a brief: sounds are sent there, and it says what they will weigh', async ({
  page,
  request,
}) => {
  const { project, ids } = await projectWith(request, 'Keeping', { 'bell.wav': tone(2) });
  const other = await page.context().newPage();
  await open(other, `/p/${project}/pack/destinations`);
  const inOther = other.getByRole('heading', { name: 'Lamp room' });
  await open(page, `/p/${project}/collect`);
  for (const key of ['Control+a', 'z']) await page.keyboard.press(key);
  await sheet(page).getByText('FLAC', { exact: true }).click();
  await press(page, 'Keep as a brief').click();
  await page.getByLabel('Name of the destination').fill('Lamp room');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Kept as “Lamp room”')).toBeVisible();
  await press(page, 'Send to destinations').click();
  await page.getByRole('button', { name: 'Lamp room', exact: true }).click();
  await expect
    .poll(async () => (await stateOf(request, project)).cells.map(({ soundId }) => soundId))
    .toEqual(ids);
  await open(page, `/p/${project}/pack/destinations`);
  const destination = page.getByRole('region', { name: 'Lamp room' });
  // Only what is in view is drawn, and it is the last of them.
  await expect(async () => {
    await page.locator('main').evaluate((main) => main.scrollTo(0, main.scrollHeight));
    await expect(page.getByRole('heading', { name: 'Lamp room' })).toBeVisible({ timeout: 500 });
  }).toPass();
  await expect(destination).toContainText('Takes FLAC, 16-bit, any rate from');
  // Another window has heard of it.
  await other.locator('main').evaluate((main) => main.scrollTo(0, main.scrollHeight));
  await expect(inOther).toBeVisible();
  await expect(destination).toContainText(
    /Not built yet\. (About )?[\d.]+ kB will come of 88\.2 kB/,
  );
  await expect(destination.getByRole('button', { name: 'Forget it' })).toBeHidden();
  await page.keyboard.press('Control+z');
  await expect(destination.getByRole('button', { name: 'Forget it' })).toBeVisible();
  await destination.getByRole('button', { name: 'Forget it' }).click();
  await expect(page.getByRole('heading', { name: 'Lamp room' })).toBeHidden();
  await expect(inOther).toBeHidden();
});

test('stems get one gain for all at Shape several: the loudest reaches the level', async ({
  page,
  request,
}) => {
  const { project, ids } = await projectWith(request, 'Stems', {
    'loud.wav': tone(1, 300, 0.5),
    'soft.wav': tone(1, 400, 0.05),
  });
  await open(page, `/p/${project}/shape/several?sounds=${ids.join(',')}`);
  await page.keyboard.press('a');
  await page.getByRole('textbox', { name: 'Search steps' }).fill('normalise');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'One gain for all' }).click();
  await expect(page.getByRole('list', { name: 'Steps' })).toContainText(
    'Change the level by +5 dB',
  );
  await page.getByRole('button', { name: 'Apply to 2 sounds' }).click();
  await expect(page).toHaveURL(/collect/);
  const { sounds } = await stateOf(request, project);
  const gains = sounds.map(({ recipe }) => recipe.steps[0]!.params['gainDb']);
  expect(gains[0]).toBeCloseTo(5.02, 1);
  expect(gains[1]).toBe(gains[0]);
});
