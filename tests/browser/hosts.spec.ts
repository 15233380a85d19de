import { expect, type Page } from '@playwright/test';
import {
  bring,
  expectHeard,
  framesHeard,
  log,
  m4a,
  modZip,
  ogg,
  RATE,
  tone,
  verdict,
  zipped,
} from './hosting';
import { open, test } from './page';
import { isRecording, recordedPage } from './recording';

const triggers = (page: Page) => page.getByRole('group', { name: 'What happens' });
const press = (page: Page, name: string) =>
  triggers(page).getByRole('button', { name, exact: false }).first().click();
const act = (page: Page, file: string) => page.getByLabel(`What a tap does to ${file}`);

/** The first frame of a recording that is not silent. */
const begins = (channel: Float32Array) => channel.findIndex((x) => Math.abs(x) > 1e-4);

/** How long a stretch is whose repeats are the same to the bit, as often as is asked; 0 where none is. */
function periodOf(channel: Float32Array, from: number, most: number, repeats: number): number {
  for (let period = 1_000; period <= most; period++) {
    let same = 0;
    const frames = period * (repeats - 1);
    while (same < frames && channel[from + same] === channel[from + same + period]) same++;
    if (same === frames) return period;
  }
  return 0;
}

test('the stage: muted until a tap, a hint that goes, and the second tap as it was foretold', async ({
  page,
}) => {
  await open(page, '/p/1/rehearse/filter');
  await bring(page, zipped({ 'bell.m4a': await m4a(tone(700, 4)) }), 'bell.zip');
  await expect(verdict(page)).toHaveText('Accepted: 1 sound, and every rule is met.');
  await expect(page.getByText('muted until a tap')).toBeVisible();
  await press(page, 'Filter opened');
  await expect(page.getByText('Tap to hear', { exact: true })).toBeVisible();
  await expect(triggers(page).getByRole('button', { name: 'Tap again' })).toBeDisabled();
  const foretold = page.getByRole('list', { name: 'What taps do to bell.m4a' });
  await expect(foretold).toContainText('second tap: it stops');
  await press(page, 'Tap');
  await expectHeard(page, true);
  await expect(page.getByText('Tap to hear', { exact: true })).toHaveCount(0);
  await expect(page.getByText('muted until a tap')).toHaveCount(0);
  await page.keyboard.press('t');
  await expectHeard(page, false);
  await act(page, 'bell.m4a').selectOption({ label: 'starts it over' });
  await expect(foretold).toContainText('second tap: it begins again from its start');
  await press(page, 'Tap again');
  await expectHeard(page, true);
  await press(page, 'Tap again');
  await expect(log(page)).toContainText('bell.m4a begins again');
  await expectHeard(page, true);
  // Space silences the host, wherever one is.
  await page.keyboard.press('Space');
  await expectHeard(page, false);
  await act(page, 'bell.m4a').selectOption({ label: 'starts or stops it' });
  await press(page, 'Tap again');
  await expectHeard(page, true);
});

test('on the stage a loop repeats to the frame, ten times over', async ({ browser, baseURL }) => {
  const { page, recorded, close } = await recordedPage(browser, baseURL!);
  await open(page, '/p/1/rehearse/filter');
  const length = 8_820;
  const sound = tone(300, length / RATE).map(
    (x, i) => x * (1 - i / length) + 0.1 * Math.sin(i * i * 1e-6),
  );
  await bring(page, zipped({ 'loop.m4a': await m4a(sound) }));
  await expect(verdict(page)).toContainText('Accepted');
  await page.getByRole('button', { name: 'loop.m4a repeats' }).click();
  await isRecording(page);
  await page.keyboard.press('t');
  await expect.poll(() => framesHeard(page)).toBeGreaterThan(11 * length + 4_000);
  const [channel] = await recorded();
  // Past the first repeat, where nothing fades any more.
  const from = begins(channel!) + length;
  expect(periodOf(channel!, from, 12_000, 9)).toBe(length);
  await close();
});

test('on the island music begins with the tide, with its intro, and its loop repeats to the frame', async ({
  browser,
  baseURL,
}) => {
  const { page, recorded, close } = await recordedPage(browser, baseURL!);
  await open(page, '/p/1/rehearse/mod');
  const [intro, length] = [3_000, 7_350];
  const sound = tone(250, (intro + length) / RATE).map(
    (x, i) => x * (0.3 + 0.7 * Math.abs(Math.sin(i * 7e-4))),
  );
  const loop = { startFrame: intro, endFrame: intro + length };
  const music = await ogg(sound, { tags: {}, loop, markers: [] });
  await bring(page, await modZip({ 'places/landing.ogg': music }));
  await expect(verdict(page)).toContainText('Accepted');
  const clock = page.getByRole('region', { name: 'Tide clock' });
  await expect(clock).toContainText('Then places/landing.ogg begins at the landing');
  await expect(clock).toContainText('repeats');
  await isRecording(page);
  await page.getByRole('button', { name: 'To the turn' }).click();
  await expect(clock).toContainText(/low water in 0:0[123]/);
  await page.keyboard.press('n');
  await expect(log(page)).toContainText('places/landing.ogg begins at the landing');
  await expect.poll(() => framesHeard(page)).toBeGreaterThan(intro + 12 * length);
  const [channel] = await recorded();
  const from = begins(channel!) + intro + length;
  expect(periodOf(channel!, from, 9_000, 9)).toBe(length);
  await close();
});

test('calls are played by id, by their odds, with level and pitch; places are walked to with keys', async ({
  page,
}) => {
  await open(page, '/p/1/rehearse/mod');
  await bring(page, await modZip());
  await expect(verdict(page)).toContainText('Accepted: 9 sounds');
  const calls = page.getByRole('region', { name: 'Calls' });
  await page.keyboard.press('/');
  await page.keyboard.type('horn');
  for (let i = 0; i < 40; i++) await page.keyboard.press('Enter');
  await expectHeard(page, true);
  const picked = async (path: string) => {
    const text = await calls.getByRole('listitem').filter({ hasText: path }).last().textContent();
    return Number(/(\d+) of 40/.exec(text!)?.[1]);
  };
  const [one, three] = [await picked('horn_1.ogg'), await picked('horn_3.ogg')];
  expect(one + three).toBe(40);
  expect(three).toBeGreaterThan(one);
  await calls.getByLabel('Factor of pitch of what is played').fill('3');
  await expect(calls.getByText('0.5 to 2')).toBeVisible();
  await calls.getByLabel('Factor of pitch of what is played').fill('0.5');
  await page.keyboard.press('Enter');
  await calls.getByRole('button', { name: 'Play horn' }).click();
  await expect(calls.getByRole('status')).toContainText('× 0.50');
  await calls.getByRole('button', { name: 'Count anew' }).click();
  await expect(calls).not.toContainText('of 41');
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('ArrowRight');
  await expect(log(page)).toContainText('Walked to the shore');
  await expect(page.getByRole('button', { name: 'Walk to the shore' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await expect(
    page.getByRole('button', { name: 'Walk to the cave, which has no music' }),
  ).toBeVisible();
});

/** How strong one frequency is in a stretch, in dB (Goertzel’s sum, by its definition). */
function levelOf(channel: Float32Array, hz: number): number {
  let [re, im] = [0, 0];
  channel.forEach((x, i) => {
    re += x * Math.cos((2 * Math.PI * hz * i) / RATE);
    im += x * Math.sin((2 * Math.PI * hz * i) / RATE);
  });
  return 20 * Math.log10((2 * Math.hypot(re, im)) / channel.length);
}

test('the loudspeaker of a phone keeps its band and loses the bass', async ({
  browser,
  baseURL,
}) => {
  const { page, recorded, close } = await recordedPage(browser, baseURL!);
  await open(page, '/p/1/rehearse/filter');
  const [low, high] = [110, 2_000];
  const both = tone(low, 8, 0.1).map((x, i) => x + 0.1 * Math.sin((2 * Math.PI * high * i) / RATE));
  await bring(page, zipped({ 'tones.m4a': await m4a(both) }));
  await expect(verdict(page)).toContainText('Accepted');
  await isRecording(page);
  await page.keyboard.press('t');
  await expect.poll(() => framesHeard(page)).toBeGreaterThan(RATE);
  const [plain] = await recorded();
  await page.getByRole('button', { name: 'Phone’s loudspeaker' }).click();
  await expect.poll(() => framesHeard(page)).toBeGreaterThan(plain!.length + RATE);
  const [all] = await recorded();
  const lost = (hz: number) =>
    levelOf(plain!.subarray(-22_050), hz) - levelOf(all!.subarray(-22_050), hz);
  expect(lost(low)).toBeGreaterThan(40);
  expect(Math.abs(lost(high))).toBeLessThan(10);
  await close();
});

test('a take: the microphone decides what ends up in it', async ({ page }) => {
  await open(page, '/p/1/rehearse/filter');
  await bring(page, zipped({ 'bed.m4a': await m4a(tone(700, 6)) }));
  await expect(verdict(page)).toContainText('Accepted');
  const take = page.getByRole('region', { name: 'A take' });
  const film = async (): Promise<string> => {
    await press(page, 'Filter opened');
    await take.getByRole('button', { name: 'Record a take' }).click();
    await expect(take.getByRole('button', { name: 'End the take' })).toBeVisible();
    await press(page, 'Tap');
    await expectHeard(page, true);
    await page.waitForTimeout(700);
    await page.keyboard.press('r');
    await expect(take.getByRole('button', { name: /Hear the take/ })).toBeVisible();
    return (await take.locator('p').last().textContent())!;
  };
  const [, less] = /left in the film, ([\d.]+) dB less/.exec(await film()) ?? [];
  expect(Number(less)).toBeGreaterThan(12);
  expect(Number(less)).toBeLessThan(40);
  await take.getByRole('button', { name: 'Microphone on' }).click();
  expect(await film()).toContain('as loud as it played');
  await expectHeard(page, false);
  await take.getByRole('button', { name: /Hear the take/ }).click();
  await expectHeard(page, true);
});
