import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import wavefile from 'wavefile';
import { drop, expectPlaying, strip } from './dropping';
import { open, test } from './page';
import { place } from './place';

/** A real WAV file, written by an independent package: six seconds of stereo at 48 kHz. */
function makeWav(name: string, hz = 440): string {
  const frames = 288_000;
  const channel = (pitch: number) =>
    Array.from({ length: frames }, (_, i) =>
      Math.round(12_000 * Math.sin((2 * Math.PI * pitch * i) / 48_000)),
    );
  const file = new wavefile.WaveFile();
  file.fromScratch(2, 48_000, '16', [channel(hz), channel(hz * 1.5)]);
  const path = place(name);
  writeFileSync(path, file.toBuffer());
  return path;
}

function makeBad(name: string, content: string): string {
  const path = place(name);
  writeFileSync(path, content);
  return path;
}

const bringIn = (page: Page, ...files: string[]) => page.getByTestId('files').setInputFiles(files);
const row = (page: Page, name: string) => page.getByRole('row').filter({ hasText: name });

test('from a dropped file to a checked copy', async ({ page }) => {
  await page.goto('/');
  await expect(page).toHaveURL(/\/p\/1\/collect$/);
  await drop(page, readFileSync(makeWav('harbour tone.wav')), 'harbour tone.wav');

  // Within a second or two one sees what it is.
  const line = row(page, 'harbour tone');
  for (const fact of ['WAV with PCM', '48 kHz', 'stereo', '0:06.000', '1.15 MB', '−8.7']) {
    await expect(line).toContainText(fact);
  }

  // Mark the part to use: by dragging …
  await line.getByRole('link', { name: 'harbour tone' }).click();
  await expect(page.getByRole('heading', { name: 'Shape' })).toBeVisible();
  const wave = (await page.getByTestId('waveform').boundingBox())!;
  await page.mouse.move(wave.x + wave.width * 0.25, wave.y + 90);
  await page.mouse.down();
  await page.mouse.move(wave.x + wave.width * 0.5, wave.y + 90, { steps: 5 });
  await page.mouse.move(wave.x + wave.width * 0.75, wave.y + 90, { steps: 5 });
  await page.mouse.up();
  await expect(page.getByLabel('Length', { exact: true })).toHaveValue(/^0:0(3\.0|2\.9)/);
  // … and by typing.
  await page.getByRole('textbox', { name: 'Start', exact: true }).fill('1');
  await page.keyboard.press('Enter');
  await page.getByRole('textbox', { name: 'End', exact: true }).fill('240000f');
  await page.keyboard.press('Enter');
  await expect(page.getByText('frame 48,000')).toBeVisible();
  await expect(page.getByText('192,000 frames')).toBeVisible();
  await page.getByRole('button', { name: 'Play the marked part' }).click();
  await expectPlaying(page);
  // Keep it: the original stays as it is, the recipe has a step.
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByRole('list', { name: 'Steps' })).toContainText(
    'Keep 0:01.000 to 0:05.000',
  );

  // Choose a destination, and read what will be converted and why.
  await page.getByRole('link', { name: /Pack/ }).click();
  await page.getByRole('link', { name: 'By destination' }).click();
  const destination = page.getByRole('region', { name: 'AR filter' });
  await destination.getByRole('button', { name: 'Add sounds to AR filter' }).click();
  await page.getByLabel('Find a sound').fill('harbour');
  await page.keyboard.press('Enter');
  const entry = destination
    .getByRole('listitem')
    .filter({ has: page.getByRole('link', { name: 'harbour tone', exact: true }) });
  await expect(entry).toContainText('It is WAV with PCM; the destination takes M4A with AAC.');
  await expect(entry).toContainText('Resampled from 48 kHz to 44.1 kHz');
  await expect(entry).toContainText('Both channels are mixed to one');
  await entry.getByRole('radio', { name: 'Keep left' }).click();

  await destination.getByRole('button', { name: 'Build' }).click();
  await expect(entry).toContainText('Decoded again: 176,400 of 176,400 frames');
  await expect(entry).toContainText('0:04.000, 44.1 kHz, mono');
  await expect(entry).toContainText(/1\.15 MB → .*kB.*÷ [\d.]+/);

  // Source and result in turn, at the same position.
  await entry.getByRole('button', { name: 'Play harbour tone.m4a' }).click();
  await expectPlaying(page);
  const versions = strip(page).getByRole('radio');
  await expect(versions).toHaveText(['Source', 'Shaped', 'AR filter · M4A']);
  const before = Number(await strip(page).getAttribute('data-frame')) / 44_100;
  await strip(page).getByRole('radio', { name: 'Source' }).click();
  await expectPlaying(page);
  const after = Number(await strip(page).getAttribute('data-frame')) / 48_000;
  // The kept part begins a second into the source.
  expect(after - before).toBeGreaterThan(0.95);
  expect(after - before).toBeLessThan(3);

  // Download it, and hold it against the brief once more from outside.
  const download = page.waitForEvent('download');
  await entry.getByRole('link', { name: 'Download harbour tone.m4a' }).click();
  const saved = place((await download).suggestedFilename());
  await (await download).saveAs(saved);
  const verdict = execFileSync(process.execPath, [
    'bin/bijou',
    'check',
    saved,
    '--brief',
    'ar-filter',
    '--json',
  ]);
  expect(JSON.parse(verdict.toString())).toMatchObject([
    { accepted: true, frames: 176_400, channels: 1 },
  ]);

  // The browser's own decoder agrees on the length.
  const frames = await page.evaluate(async (base64) => {
    const bytes = Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0));
    const context = new OfflineAudioContext(1, 1, 44_100);
    return (await context.decodeAudioData(bytes.buffer)).length;
  }, readFileSync(saved).toString('base64'));
  expect(frames).toBe(176_400);

  const zip = page.waitForEvent('download');
  await destination.getByRole('link', { name: 'All as zip' }).click();
  const archive = place('pack.zip');
  await (await zip).saveAs(archive);
  const text = readFileSync(archive, 'latin1');
  expect(text).toContain('harbour tone.m4a');
  expect(text).not.toContain('ar-filter/');
  expect(text).toContain('manifest.json');
});

test('bad files are named, with what is wrong and what to do; the good one comes in', async ({
  page,
}) => {
  await open(page, '/p/1/collect');
  await bringIn(
    page,
    makeBad('letter.wav', 'Dear Sir'),
    makeBad('empty.wav', ''),
    makeBad('cut.wav', 'RIFF____WAVE'),
    makeBad(`${'long '.repeat(40)}"quoted" 🐚.mp3`, 'x'),
    makeWav('good one.wav', 300),
  );
  const left = page.getByRole('region', { name: 'What was brought in' });
  await expect(left).toContainText('1 added, 4 failed');
  await expect(left).toContainText('letter.wav: It is text, not sound');
  await expect(left).toContainText('empty.wav: The file is empty');
  await expect(left).toContainText('cut.wav: The WAV header has no format chunk');
  await expect(left).toContainText('"quoted" 🐚.mp3: It is text');
  await expect(row(page, 'good one')).toContainText('stereo');
  await bringIn(page, makeWav('same bytes.wav', 300));
  await expect(left).toContainText('same bytes.wav is here already as “good one”');
  await page.reload();
  await expect(left).toContainText('letter.wav');
  await left.getByRole('button', { name: 'Dismiss' }).click();
  await expect(left).toBeHidden();
  await page.reload();
  await expect(row(page, 'good one')).toBeVisible();
  await expect(left).toBeHidden();
});

test('a decision is asked for before the build, and settles it', async ({ page }) => {
  await open(page, '/p/1/pack/destinations#wav-master');
  const entry = page
    .getByRole('region', { name: 'WAV master' })
    .getByRole('listitem')
    .filter({ has: page.getByRole('link', { name: 'thunder', exact: true }) });
  await expect(entry).toContainText('Its loudest moment lies 2.4 dB above full scale');
  // The choice is still on its way when the build is asked for.
  await page.route('**/assignments', async (route) => {
    await new Promise((passed) => setTimeout(passed, 700));
    await route.continue();
  });
  await entry.getByRole('radio', { name: 'Turn all down' }).click();
  await page
    .getByRole('region', { name: 'WAV master' })
    .getByRole('button', { name: 'Build' })
    .click();
  await expect(entry).toContainText('All of it is turned down to −1 dBTP, as chosen.');
  await expect(entry).toContainText('The brief is met');
});

test('everything by keys: choose, hear, shape, undo a removal', async ({ page }) => {
  await open(page, '/p/1/collect');
  await expect(row(page, 'foghorn')).toBeVisible();
  // By name: buoy bell, door latch, foghorn …
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowDown');
  await expect(row(page, 'foghorn')).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('Space');
  await expectPlaying(page);
  await page.keyboard.press('Space');
  await expect(strip(page)).toHaveAttribute('data-playing', 'false');
  // A button that was clicked does not keep the space bar to itself.
  await row(page, 'gull').getByRole('button', { name: 'Play gull' }).click();
  await expectPlaying(page);
  await page.keyboard.press('Space');
  await expect(strip(page)).toHaveAttribute('data-playing', 'false');
  await row(page, 'surf bed').getByText('stereo').click();
  await page.keyboard.press('Delete');
  await expect(row(page, 'surf bed')).toBeHidden();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(row(page, 'surf bed')).toBeVisible();
  await row(page, 'surf bed').getByText('stereo').click();

  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Shape' })).toBeVisible();
  await page.keyboard.press('Control+a');
  const start = page.getByRole('slider', { name: 'Start of the marked part' });
  await start.focus();
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight');
  await expect(start).toHaveAttribute('aria-valuenow', '3');
  await page.keyboard.press('Control+a');
  await expect(start).toHaveAttribute('aria-valuenow', '0');
  await page.keyboard.press('Escape');
  await expect(start).toBeHidden();
  // Down to single frames.
  for (let i = 0; i < 16; i++) await page.keyboard.press('+');
  await expect(page.getByText(/, 24 frames/)).toBeVisible();
  await page.keyboard.press('0');
  await expect(page.getByText(/1,058,400 frames$/).first()).toBeVisible();
  await page.keyboard.press('4');
  await expect(page.getByRole('heading', { name: 'Pack', exact: true })).toBeVisible();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keyboard shortcuts' })).toBeVisible();
});

test('a time that is ambiguous or outside is explained and changes nothing', async ({ page }) => {
  await open(page, '/p/1/shape/2');
  const end = page.getByLabel('End', { exact: true });
  await end.fill('1,5');
  await expect(page.getByText(/comma may mean/)).toBeVisible();
  await end.fill('99');
  await expect(page.getByText('The sound ends at 0:24.000.')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(end).toHaveValue('0:24.000');
});

test('playing around never leaves the marked part', async ({ page }) => {
  await open(page, '/p/1/shape/4');
  await page.getByRole('textbox', { name: 'End', exact: true }).fill('9600f');
  await page.keyboard.press('Enter');
  await expect(page.getByText('frame 9,600').first()).toBeVisible();
  await page.getByRole('button', { name: 'Around', exact: true }).click();
  await page.getByRole('button', { name: 'Play the marked part' }).click();
  await expect(strip(page)).toHaveAttribute('data-playing', 'true');
  const seen = new Set<number>();
  await expect
    .poll(async () => seen.add(Number(await strip(page).getAttribute('data-frame'))).size, {
      intervals: [70],
      timeout: 20_000,
    })
    .toBeGreaterThan(6);
  expect(Math.max(...seen)).toBeLessThan(9_600);
});
