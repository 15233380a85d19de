import { expect } from '@playwright/test';
import { expectNarrow, expectNoFaultsInThemes } from './axe';
import { drop } from './dropping';
import { bring, checked, log, m4a, modZip, ogg, RATE, tone, verdict, zipped } from './hosting';
import { open, test } from './page';
import { isRecording, recordedPage, type Blocks } from './recording';

test('a wrong pack is refused with its rule and cure; nothing of it becomes part of the page; silence has its reasons', async ({
  page,
}) => {
  await open(page, '/p/1/rehearse/mod');
  await page.evaluate(() => Object.assign(window, { alert: () => (document.title = 'harmed') }));
  const bad = '<img src=x onerror=alert(1)>';
  await drop(
    page,
    await modZip({
      'isle.json': JSON.stringify({
        title: bad,
        edition: 9,
        author: bad,
        icon: 'icon.png',
        calls: 'calls.json',
      }),
      'read_me.txt': `${bad}<script>alert(1)</script>`,
      '../../climbing.ogg': 'x',
      [`${bad}.ogg`]: 'x',
    }),
    'evil.zip',
    'main',
    'Let go to bring it to the mod island',
  );
  await expect(verdict(page)).toContainText('Refused for 3 reasons');
  const files = checked(page).getByRole('list', { name: 'Files' });
  await expect(files).toContainText('edition: edition 9 · asked: edition 3 or 2');
  await expect(files).toContainText('Set the edition to 3');
  await expect(files).toContainText('It leads out of its folder');
  await expect(page.getByText(bad).first()).toBeVisible();
  expect(await page.locator('main img[src="x"]').count()).toBe(0);
  await expect(page).not.toHaveTitle('harmed');
  await page.getByRole('button', { name: 'Silent as the real one' }).click();
  await expect(verdict(page)).toHaveCount(0);
  await expect(checked(page)).toContainText('Nobody says why');
  await page.keyboard.press('w');
  await expect(verdict(page)).toContainText('Refused for 3 reasons');
  // Another host says for which one it is.
  await page.getByRole('link', { name: 'Filter stage' }).click();
  await bring(page, await modZip());
  await expect(verdict(page)).toContainText('a pack for the mod island');
  await bring(page, Buffer.from('no zip at all'), 'no.zip');
  await expect(verdict(page)).toContainText('no zip that can be read');
});

/** What was measured, for docs/benchmarks.md: figures are no reason to fail. */
function report(what: string, value: string): void {
  process.stdout.write(`      measured · ${what}: ${value}\n`);
}

test('a pack of two hundred sounds is looked at, and what a key begins is in the graph at once', async ({
  browser,
  baseURL,
}) => {
  const { page, close } = await recordedPage(browser, baseURL!);
  for (const host of ['mod', 'filter']) {
    await open(page, `/p/1/rehearse/${host}`);
    const short = host === 'mod' ? await ogg(tone(500, 0.5)) : await m4a(tone(500, 0.5));
    const ending = host === 'mod' ? 'ogg' : 'm4a';
    const many = Object.fromEntries(
      Array.from({ length: 200 }, (_, i) => [`sound_${i}.${ending}`, short]),
    );
    const zip = host === 'mod' ? await modZip(many) : zipped(many);
    await page.evaluate(() => {
      const began = performance.now();
      const look = () => {
        const isThere = document.body.textContent.includes('Accepted: 2');
        if (isThere) Object.assign(window, { tookMs: performance.now() - began });
        else requestAnimationFrame(look);
      };
      look();
    });
    await bring(page, zip);
    await expect(verdict(page)).toContainText('Accepted: 20');
    const took = await page.evaluate(() => (window as unknown as { tookMs: number }).tookMs);
    const [ready] = /[\d.]+ s(?=\s+Ready)/.exec(await log(page).innerText()) ?? [];
    report(
      `${host}: 200 sounds brought, checked and ready`,
      `${took.toFixed(0)} ms, of which in the worker ${ready}`,
    );
  }
  await isRecording(page);
  await page.waitForTimeout(2_500);
  await page.keyboard.press('t');
  // What was written down stays: the sound itself is over before a busy machine looks.
  await page.waitForFunction(() => {
    const { recorded, frames, pressed } = window as unknown as Blocks;
    return recorded.some(
      ([block], i) => frames[i]! >= pressed.at(-1)! && block!.some((x) => x !== 0),
    );
  });
  const frames = await page.evaluate(() => {
    const { recorded, frames, pressed } = window as unknown as Blocks;
    const key = pressed.at(-1)!;
    const block = frames.findIndex(
      (frame, i) => frame >= key && recorded[i]![0]!.some((x) => x !== 0),
    );
    return frames[block]! + recorded[block]![0]!.findIndex((x) => x !== 0) - key;
  });
  report(
    'from key to the first sample that is not zero',
    `${((1_000 * frames) / RATE).toFixed(1)} ms`,
  );
  expect(frames).toBeGreaterThan(0);
  await close();
});

test('without a device for sound everything is checked all the same', async ({ page }) => {
  await page.addInitScript(() => {
    window.AudioContext = class {
      constructor() {
        throw new DOMException('no device', 'NotSupportedError');
      }
    } as unknown as typeof AudioContext;
  });
  await open(page, '/p/1/rehearse/mod');
  await bring(page, await modZip());
  await expect(verdict(page)).toContainText('Accepted: 9 sounds');
  await page.keyboard.press('n');
  await expect(page.getByText('No sound comes out of this browser')).toBeVisible();
  await page.getByRole('button', { name: 'Play gull' }).click();
  await page.getByRole('link', { name: 'Filter stage' }).click();
  await bring(page, zipped({ 'bell.m4a': await m4a(tone(700, 1)) }));
  await page.keyboard.press('t');
  await page.getByRole('button', { name: 'Record a take' }).click();
  await expect(page.getByText('Nothing can be recorded here.')).toBeVisible();
});

for (const host of ['mod', 'filter']) {
  test(`axe finds nothing on the ${host} host at work, nor when it refuses; nothing is too wide`, async ({
    page,
  }) => {
    await page.emulateMedia({ reducedMotion: 'reduce' });
    await open(page, `/p/1/rehearse/${host}`);
    const right =
      host === 'mod' ? await modZip() : zipped({ 'a bell.m4a': await m4a(tone(700, 1)) });
    const wrong = host === 'mod' ? await modZip({ 'Owl.ogg': 'x' }) : zipped({ 'bell.wav': 'x' });
    for (const [zip, said] of [
      [right, 'Accepted'],
      [wrong, 'Refused'],
    ] as const) {
      await bring(page, zip);
      await expect(verdict(page)).toContainText(said);
      await expectNoFaultsInThemes(page);
      await expectNarrow(page);
    }
  });
}
