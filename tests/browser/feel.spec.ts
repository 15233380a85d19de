import { expect, type Page } from '@playwright/test';
import { addStep, openShape, projectWith, steps, wav } from './shaping';
import { test } from './page';
import { isRecording, recordedPage } from './recording';

const RATE = 48_000;
/** For the figures of docs/benchmarks.md: five minutes, set to 300. */
const LONG = Number(process.env['BIJOU_LONG_SECONDS'] ?? 15) * RATE;

/** Stereo that has a shape at every zoom. */
function longSound(): Float32Array[] {
  return [0, 1].map((c) =>
    Float32Array.from({ length: LONG }, (_, i) => {
      const swell = 0.3 + 0.3 * Math.sin((2 * Math.PI * i) / (7 + c) / RATE);
      return (
        swell * Math.sin(0.03 * i + Math.sin(i * 0.0001)) * (1 - 0.5 * Math.abs(Math.sin(i * 1e-5)))
      );
    }),
  );
}

/** Says what was measured: reported, never asserted. */
function report(what: string, value: string): void {
  test.info().annotations.push({ type: 'measured', description: `${what}: ${value}` });
  process.stdout.write(`      measured · ${what}: ${value}\n`);
}

/** Times between pictures while `work` goes on. */
async function pictures(page: Page, work: () => Promise<void>): Promise<string> {
  await page.evaluate(() => {
    const times: number[] = [];
    Object.assign(window, { pictureTimes: times, isMeasuring: true });
    const look = (now: number) => {
      times.push(now);
      if ((window as unknown as { isMeasuring: boolean }).isMeasuring) requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
  });
  await work();
  const gaps = await page.evaluate(() => {
    Object.assign(window, { isMeasuring: false });
    const times = (window as unknown as { pictureTimes: number[] }).pictureTimes;
    return times.slice(1).map((time, i) => time - times[i]!);
  });
  gaps.sort((a, b) => a - b);
  const at = (share: number) => gaps[Math.floor(share * (gaps.length - 1))]!.toFixed(1);
  const perSecond = (1_000 * gaps.length) / gaps.reduce((sum, gap) => sum + gap, 0);
  return `${perSecond.toFixed(1)} pictures a second (median ${at(0.5)} ms, 95 % ${at(0.95)} ms, worst ${at(1)} ms; ${gaps.length} pictures)`;
}

const heard = (page: Page) =>
  page.evaluate(() => {
    const strip = document.querySelector('section[aria-label=Listening]')!;
    return Number(strip.getAttribute('data-peak'));
  });

/** Milliseconds from a key until the analyser hears something. */
async function untilHeard(page: Page, key: string): Promise<number> {
  await page.evaluate(() => {
    const strip = document.querySelector('section[aria-label=Listening]')!;
    Object.assign(window, { waited: null });
    const begin = () => {
      const began = performance.now();
      const look = () => {
        if (Number(strip.getAttribute('data-peak')) < 0.001) requestAnimationFrame(look);
        else Object.assign(window, { waited: performance.now() - began });
      };
      look();
    };
    addEventListener('keydown', begin, { capture: true, once: true });
  });
  await page.keyboard.press(key);
  const waited = () => page.evaluate(() => (window as unknown as { waited: number | null }).waited);
  await expect.poll(waited, { intervals: [20] }).not.toBeNull();
  const result = (await waited())!;
  await page.keyboard.press('Space');
  await expect.poll(() => heard(page)).toBeLessThan(0.001);
  return result;
}

test('a long stereo sound: zooming, dragging, and hearing a change', async ({ page, request }) => {
  const { project, ids } = await projectWith(request, 'Long', {
    'long.wav': wav(longSound(), RATE),
  });
  const opening = Date.now();
  await openShape(page, project, ids[0]!);
  report('opened, first picture drawn', `${Date.now() - opening} ms`);
  const box = (await page.getByTestId('waveform').boundingBox())!;
  const y = box.y + box.height / 2;
  await page.mouse.move(box.x + box.width * 0.4, y);
  const zooming = await pictures(page, async () => {
    for (let i = 0; i < 90; i++) await page.mouse.wheel(0, i < 45 ? -120 : 120);
  });
  report('zooming in and out', zooming);
  const dragging = await pictures(page, async () => {
    await page.mouse.down();
    for (let i = 0; i < 90; i++) await page.mouse.move(box.x + box.width * (0.4 + i / 200), y);
    await page.mouse.up();
  });
  report('dragging a mark', dragging);
  await expect(page.getByRole('slider', { name: 'End of the marked part' })).toBeVisible();

  // Pointwise, moving and measuring steps: heard from the middle of the sound.
  await page.keyboard.press('Escape');
  const middle = async () => page.mouse.click(box.x + box.width * 0.5, y);
  for (const name of ['gain', 'reverse', 'normalise']) {
    await addStep(page, name);
    // Whole-sound figures have to be there before anything behind them can be heard.
    await expect(steps(page).last()).not.toContainText('measuring');
    await page.getByRole('radio', { name: 'Shaped' }).last().click();
    await middle();
    await page.getByRole('radio', { name: 'Shaped' }).last().click();
    report(
      `heard behind ${name}, from the middle`,
      `${Math.round(await untilHeard(page, 'Space'))} ms`,
    );
  }
  // A change while it plays is heard by itself.
  await page.keyboard.press('Space');
  const asked = page.waitForRequest(/shaped\/pcm/);
  await page.getByRole('checkbox', { name: 'Step 1 is on' }).uncheck();
  await asked;
  await expect(page.getByRole('region', { name: 'Listening' })).toHaveAttribute(
    'data-playing',
    'true',
  );
});

test('a span of 44,100 frames played around is 44,100 frames, sample by sample', async ({
  browser,
  baseURL,
  request,
}) => {
  const noise = new Float32Array(200_000);
  let state = 7;
  for (let i = 0; i < noise.length; i++) {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    noise[i] = state / 4_294_967_296 - 0.5;
  }
  const { project, ids } = await projectWith(request, 'Around', {
    'noise.wav': wav([noise], 44_100),
  });
  const { page, recorded, frames, close } = await recordedPage(browser, baseURL!);
  await openShape(page, project, ids[0]!);
  const region = page.getByRole('region', { name: 'Marked part' });
  await region.getByRole('textbox', { name: 'Start', exact: true }).fill('30001f');
  await page.keyboard.press('Enter');
  await region.getByRole('textbox', { name: 'Length', exact: true }).fill('44100f');
  await page.keyboard.press('Enter');
  await isRecording(page);
  await page.getByRole('button', { name: 'Around', exact: true }).click();
  await page.getByRole('button', { name: 'Play the marked part' }).click();
  await expect.poll(frames).toBeGreaterThan(4 * 44_100);
  const samples = [...(await recorded())[0]!];
  const first = samples.findIndex((x) => x !== 0);
  const sounding = samples.slice(first, first + 3 * 44_100);
  // The recorder may begin in the middle: which frame of the span it was is told by the noise.
  const wanted = Array.from(noise, (x) => Math.fround(Math.round(x * 32_767) / 32_768));
  const span = wanted.slice(30_001, 30_001 + 44_100);
  const offset = span.findIndex(
    (x, i) =>
      x === sounding[0] &&
      span[(i + 1) % 44_100] === sounding[1] &&
      span[(i + 2) % 44_100] === sounding[2],
  );
  expect(offset).toBeGreaterThanOrEqual(0);
  const wrong = sounding.findIndex((x, i) => x !== span[(offset + i) % 44_100]);
  expect(wrong).toBe(-1);
  await close();
});

test('before and after at the same place with one key, as loud as each other on request', async ({
  page,
  request,
}) => {
  const tone = Float32Array.from({ length: 30 * RATE }, (_, i) => 0.5 * Math.sin(i * 0.05));
  const { project, ids } = await projectWith(request, 'Compare', { 'tone.wav': wav([tone], RATE) });
  await openShape(page, project, ids[0]!);
  const strip = page.getByRole('region', { name: 'Listening' });
  await addStep(page, 'gain');
  await page.getByRole('button', { name: 'Set step 1' }).click();
  await page.getByRole('textbox', { name: 'Change' }).fill('-20');
  await page.keyboard.press('Enter');
  await page.getByRole('heading', { level: 1 }).click();
  const frame = async () => Number(await strip.getAttribute('data-frame'));
  await page.keyboard.press('Space');
  await expect.poll(frame).toBeGreaterThan(10_000);
  await expect.poll(() => heard(page)).toBeGreaterThan(0.4);
  const before = await frame();
  await page.keyboard.press('v');
  await expect(strip.getByRole('radio', { name: 'Shaped' })).toBeChecked();
  await expect.poll(() => heard(page)).toBeLessThan(0.1);
  expect(await frame()).toBeGreaterThan(before - 1_000);
  await page.keyboard.press('v');
  await page.keyboard.press('m');
  await expect(strip.getByRole('button', { name: 'Same loudness' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  // Reversed, the same place lies at the other end.
  await page.keyboard.press('Space');
  await addStep(page, 'reverse');
  const stopped = await frame();
  await page.getByTestId('waveform').click({ position: { x: 100, y: 100 } });
  await expect.poll(frame).not.toBe(stopped);
  const at = await frame();
  await page.keyboard.press('v');
  await expect.poll(frame).toBe(30 * RATE - at);
});
