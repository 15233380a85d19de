import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from '@playwright/test';
import wavefile from 'wavefile';
import { open, test } from './page';
import { place } from './place';

/** No multiple of any codec's packet. */
const FRAMES = 50_037;

/** What each format is called in the list, and whether browsers play it. */
const formats: [format: string, codec: string, found: string, plays: boolean][] = [
  ['wav', 'pcm', 'WAV with PCM', true],
  ['wav', 'ima-adpcm', 'WAV with IMA ADPCM', false],
  ['aiff', 'pcm', 'AIFF with PCM', false],
  ['flac', 'flac', 'FLAC', true],
  ['mp3', 'mp3', 'MP3', true],
  ['ogg', 'vorbis', 'Ogg with Vorbis', true],
  ['ogg', 'opus', 'Ogg with Opus', true],
  ['webm', 'opus', 'WebM with Opus', true],
  ['m4a', 'aac', 'M4A with AAC', true],
  ['c', 'pcm', 'C array with PCM', false],
];

const extensions: Record<string, string> = { c: 'h' };
const nameOf = (format: string, codec: string) => `swell-${format}-${codec}`;
const pathOf = (format: string, codec: string) =>
  join(
    folder,
    `${nameOf(format, codec)}.${codec === 'opus' && format === 'ogg' ? 'opus' : (extensions[format] ?? format)}`,
  );

let folder: string;

test.beforeAll(() => {
  folder = place();
  const source = new wavefile.WaveFile();
  const sine = (hz: number) =>
    Array.from({ length: FRAMES }, (_, i) =>
      Math.round(9_000 * Math.sin((2 * Math.PI * hz * i) / 48_000)),
    );
  source.fromScratch(2, 48_000, '16', [sine(330), sine(495)]);
  writeFileSync(join(folder, 'swell.wav'), source.toBuffer());
  for (const [format, codec] of formats) {
    execFileSync(process.execPath, [
      'bin/bijou', 'convert', join(folder, 'swell.wav'), '--out', folder,
      '--format', format, '--codec', codec, '--suffix', `-${format}-${codec}`,
    ]); // prettier-ignore
  }
});

test('every format that is written can be dropped, is named by what is inside, and has its length', async ({
  page,
}) => {
  await open(page, '/p/1/collect');
  await page
    .getByTestId('files')
    .setInputFiles(formats.map(([format, codec]) => pathOf(format, codec)));
  // Only lines in view are on the page.
  await page.getByRole('searchbox', { name: 'Search' }).fill('swell');
  for (const [format, codec, found] of formats) {
    const row = page.getByRole('row').filter({ hasText: nameOf(format, codec) });
    await expect(row).toContainText(found);
    await expect(row.getByTitle(`${FRAMES.toLocaleString('en')} frames`)).toBeVisible();
  }
  await page.getByRole('link', { name: nameOf('ogg', 'opus') }).click();
  await expect(page.getByRole('region', { name: 'Facts' })).toContainText('True peak');
  await expect(page.getByRole('img', { name: /Mean spectrum/ })).toBeVisible();
  await open(page, '/p/1/collect');
  await page.getByRole('searchbox', { name: 'Search' }).fill('swell');
  await expect(page.getByRole('button', { name: `All ${formats.length} listed` })).toBeVisible();
  await page.getByRole('button', { name: `All ${formats.length} listed` }).click();
  await page.getByRole('button', { name: 'Take out' }).click();
  await expect(page.getByText('No sound is like that')).toBeVisible();
});

for (const [format, codec, , plays] of formats) {
  if (!plays) continue;
  test(`the browser's own decoder finds the same frames in ${format} with ${codec}`, async ({
    page,
  }) => {
    await open(page, '/p/1/collect');
    const base64 = readFileSync(pathOf(format, codec)).toString('base64');
    const decoded = await page.evaluate(async (text) => {
      const bytes = Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0));
      const context = new OfflineAudioContext(2, 1, 48_000);
      const { length, numberOfChannels } = await context.decodeAudioData(bytes.buffer);
      return { length, numberOfChannels };
    }, base64);
    expect(decoded).toEqual({ length: FRAMES, numberOfChannels: 2 });
  });
}

test('samples without a header are read once somebody says what they are', async ({ page }) => {
  const path = place('plaything.raw');
  writeFileSync(
    path,
    Uint8Array.from({ length: 8_000 }, (_, i) => 128 + Math.round(100 * Math.sin(i / 9))),
  );
  await open(page, '/p/1/collect');
  await page.getByTestId('files').setInputFiles([path]);
  const left = page.getByRole('region', { name: 'What was brought in' });
  await expect(left).toContainText('plaything.raw');
  await left.getByRole('button', { name: 'It is raw samples…' }).click();
  await left.getByLabel('Samples').selectOption('u8');
  await left.getByLabel('Sample rate in Hz').fill('8000');
  await left.getByLabel('Channels').fill('1');
  await left.getByRole('button', { name: 'Read it so' }).click();
  await page.getByRole('searchbox', { name: 'Search' }).fill('plaything');
  const row = page.getByRole('row').filter({ hasText: 'plaything' });
  await expect(row).toContainText('raw with PCM');
  await expect(row).toContainText('8 kHz');
  await expect(row).toContainText('0:01.000');
  await expect(left).toContainText('1 added');
  await row.getByText('8 kHz').click();
  await page.keyboard.press('Delete');
  await expect(row).toHaveCount(0);
});
