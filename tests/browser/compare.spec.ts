import { readFile } from 'node:fs/promises';
import { expect, type Page } from '@playwright/test';
import Papa from 'papaparse';
import { noise, sine } from '../core/signals';
import { expectNoFaults } from './axe';
import { open, test } from './page';
import { isRecording, recordedPage } from './recording';
import { projectWith, stateOf, wav } from './shaping';

const RATE = 44_100;
const FRAMES = RATE;
const hiss = [noise(FRAMES, 3, 0.3), noise(FRAMES, 4, 0.3)].map((channel) =>
  channel.map((x) => Math.round(x * 2 ** 15) / 2 ** 15),
);
const sounds = () => ({
  'hiss.wav': wav(hiss, RATE),
  'tone.wav': wav([sine(RATE, 997, FRAMES, 0.3)], RATE),
});

const row = (page: Page, name: string | RegExp) => page.getByRole('row', { name });

/** Tries these on a sound of the project, from an empty station. */
async function tried(page: Page, project: number, sound: string, candidates: string) {
  await open(page, `/p/${project}/compare`);
  await page.getByRole('checkbox', { name: sound }).click();
  const chosen = page.getByRole('region', { name: 'Candidates' });
  await chosen.getByRole('button', { name: 'None' }).click();
  await chosen.getByLabel('Add a candidate').fill(candidates);
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: /^Try \d/ }).click();
}

test('candidates are chosen, come in, are sorted, looked at, taken, and handed out', async ({
  page,
  request,
}) => {
  const { project } = await projectWith(request, 'Weighed', sounds());
  await open(page, `/p/${project}/compare`);
  await expect(page.getByText('MP3, 96 kbit/s')).toBeVisible();
  await page.getByLabel('Add a candidate').fill('mp3@q3');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Candidates' }).getByRole('alert')).toContainText(
    'MP3 knows no "@q3"',
  );
  await tried(page, project, 'tone', 'wav/pcm@8, flac, ogg/vorbis@q2, mp3@999');
  await expect(row(page, /MP3, /)).toContainText('no bit rate of 999');
  await expect(row(page, /Ogg Vorbis/)).toContainText('imperceptible');
  await expect(row(page, /WAV, 8-bit/)).toContainText('annoying');
  await expect(page.getByText('3 trials, 1 that cannot be')).toBeVisible();
  await expect(row(page, /Ogg Vorbis/)).toContainText('unbeaten');
  await expect(page.locator('canvas[data-points="3"]')).toBeVisible();

  await expectNoFaults(page);
  const names = () => page.getByRole('rowheader').allTextContents();
  await page.getByRole('button', { name: /^Grade/ }).click();
  expect((await names())[0]).toContain('FLAC');
  await page.getByRole('button', { name: /^Grade/ }).click();
  expect((await names())[0]).toContain('WAV, 8-bit');
  await page.getByRole('button', { name: 'Choose columns' }).click();
  await page.getByRole('checkbox', { name: 'Pre-echo lasts' }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('columnheader', { name: /Pre-echo lasts/ })).toBeVisible();

  const saved = page.waitForEvent('download');
  await page.getByRole('link', { name: 'CSV' }).click();
  const text = await readFile(await (await saved).path(), 'utf8');
  const { data } = Papa.parse<Record<string, string>>(text.trim(), { header: true });
  expect(data.map(({ candidate }) => candidate)).toEqual([
    ...['wav/pcm@8', 'flac', 'ogg/vorbis@q2', 'mp3@999'],
  ]);
  expect(Number(data[0]!['grade'])).toBeLessThan(-3);
  const picture = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Picture' }).click();
  const png = await readFile(await (await picture).path());
  expect([...png.subarray(1, 4)]).toEqual([...Buffer.from('PNG')]);

  await page.getByRole('button', { name: 'Use Ogg Vorbis, quality 2' }).click();
  await page.getByLabel('As a new destination').fill('Small Vorbis');
  await page.getByRole('button', { name: 'Send', exact: true }).click();
  await expect(row(page, /Ogg Vorbis/)).toContainText('in use');
  expect((await stateOf(request, project)).cells).toHaveLength(1);
  await page.keyboard.press('Control+z');
  await expect(row(page, /Ogg Vorbis/)).not.toContainText('in use');
  expect((await stateOf(request, project)).cells).toHaveLength(0);

  await page.getByRole('link', { name: 'Memory and work' }).click();
  const voices = page.getByLabel('Voices at once');
  await voices.fill('0');
  await expect(page.getByRole('main').getByRole('alert')).toContainText('from 1 to 1000000');
  await voices.fill('1000000');
  await expect(page.getByRole('table', { name: 'Memory and work' })).toContainText('more than one');
  await expectNoFaults(page);

  // On paper everything stands below each other, for as many voices as were asked for.
  await page.getByRole('link', { name: 'Report' }).click();
  const report = page.getByRole('article');
  await expect(report.getByRole('heading', { name: /Weighed: 4 candidates/ })).toBeVisible();
  await expect(report.getByRole('heading', { name: /for 1,000,000 voices/ })).toBeVisible();
  await expect(report.getByRole('row', { name: /mp3@999|MP3, 999/ })).toContainText('no bit rate');
  await expect(report.locator('canvas[data-points="3"]')).toBeVisible();
  await expectNoFaults(page);
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('button', { name: 'Print' })).toBeHidden();
  await expect(page.getByRole('banner')).toBeHidden();
  await expect(report.getByRole('table', { name: 'Figures' })).toBeVisible();
});

/** A machine that is so slow that the sound's thread is where something should begin before that was said. */
function beBusy(): void {
  const { createBufferSource } = AudioContext.prototype;
  AudioContext.prototype.createBufferSource = function () {
    const until = performance.now() + 40;
    while (performance.now() < until);
    return createBufferSource.call(this);
  };
}

test('source and candidate are heard in step: switched without gap or click, the difference alone', async ({
  browser,
  baseURL,
  request,
}) => {
  const { project } = await projectWith(request, 'In step', sounds());
  const { page, recorded, frames, close } = await recordedPage(browser, baseURL!);
  await page.addInitScript(beBusy);
  await tried(page, project, 'hiss', 'flac@16, wav/pcm@8');
  await expect(row(page, /WAV, 8-bit/)).toContainText('unbeaten');
  await page.getByRole('link', { name: 'Look at FLAC, 16-bit, level 5 closely' }).click();
  await expect(page.getByText('nothing differs anywhere')).toBeVisible();
  await expect(page.getByRole('img', { name: 'Spectrogram: Source' })).toHaveAttribute(
    'data-ready',
    'true',
  );
  await expectNoFaults(page);
  await page.keyboard.press(' ');
  await isRecording(page);
  for (let i = 0; i < 5; i++) {
    await page.waitForTimeout(170);
    await page.keyboard.press('v');
  }
  const before = await frames();
  await expect.poll(frames).toBeGreaterThan(before + RATE);
  // Both sides are the same samples: whatever a switch did to them would stand out.
  const heard = await recorded();
  const edge = Math.round(0.004 * RATE);
  const around = hiss.map((channel) =>
    channel.map((x, i) => x * Math.min(1, Math.min(i, FRAMES - 1 - i) / edge)),
  );
  const first = heard[0]!.findIndex((x) => x !== 0);
  const at = around[0]!.findIndex((_, place) =>
    heard[0]!
      .subarray(first + 500, first + 532)
      .every((x, i) => Math.abs(x - around[0]![(place + 500 + i) % FRAMES]!) < 1e-4),
  );
  expect(at).toBeGreaterThanOrEqual(0);
  heard.forEach((channel, c) => {
    let worst = 0;
    for (let i = first; i < channel.length; i++) {
      worst = Math.max(worst, Math.abs(channel[i]! - around[c]![(at + i - first) % FRAMES]!));
    }
    expect(worst).toBeLessThan(1e-3);
  });

  // What is heard is marked in every picture, and where one points as well.
  await expect(page.getByTestId('heard')).toHaveCount(4);
  await expect(page.getByTestId('heard').first()).toBeVisible();
  await page.getByRole('img', { name: 'Spectrogram: Difference' }).hover();
  await expect(page.getByText('0:00.500')).toHaveCount(3);

  // Another candidate is in step already.
  await page.keyboard.press('ArrowDown');
  await expect(page.getByLabel('Right')).toHaveValue(/\d+/);
  await expect(page.getByRole('radio', { name: /WAV, 8-bit PCM/ })).toBeVisible();

  // Of 8 bits the difference is its dither, far below: it is turned up, and by how much is said.
  await page.keyboard.press('d');
  await expect(page.getByRole('radio', { name: /Difference alone \+\d+ dB/ })).toBeChecked();
  const quiet = await frames();
  await expect.poll(frames).toBeGreaterThan(quiet + RATE);
  const [left] = await recorded();
  const loudest = left!.subarray(-RATE / 2).reduce((most, x) => Math.max(most, Math.abs(x)), 0);
  expect(20 * Math.log10(loudest)).toBeGreaterThan(-14);
  expect(20 * Math.log10(loudest)).toBeLessThan(-11);
  await page.keyboard.press(' ');
  await expect(page.getByRole('button', { name: 'Hear it' })).toBeVisible();
  await close();
});
