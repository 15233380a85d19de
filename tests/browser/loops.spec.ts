import { readFile } from 'node:fs/promises';
import { expect, type Page } from '@playwright/test';
import wavefile from 'wavefile';
import { keepersWaltz } from '../../tools/demo/sounds/keepersWaltz';
import { unzipped } from '../server/folder';
import { open, test } from './page';
import { isRecording, recordedPage } from './recording';
import { projectWith, stateOf, steps, wav } from './shaping';

const RATE = 48_000;
/** For the figures of docs/benchmarks.md: five minutes, set to 300. */
const LONG = Number(process.env['BIJOU_LONG_SECONDS'] ?? 20);

/** What was measured, for docs/benchmarks.md: figures are no reason to fail. */
function report(what: string, value: string): void {
  process.stdout.write(`      measured · ${what}: ${value}\n`);
}

const score = async (page: Page) => Number(await page.getByTestId('seam-score').textContent());
const field = (page: Page, name: string) => page.getByRole('textbox', { name, exact: true });

async function type(page: Page, name: string, text: string): Promise<void> {
  await field(page, name).fill(text);
  await page.keyboard.press('Enter');
  await page.getByRole('heading', { level: 1 }).click();
}

/** What another program finds in a WAV file. */
function samplesOf(bytes: Buffer): Float32Array[] {
  const file = new wavefile.WaveFile(bytes);
  const { bitsPerSample } = file.fmt as { bitsPerSample: number };
  return (file.getSamples(false) as unknown as Float64Array[]).map((channel) =>
    Float32Array.from(channel, (x) => x / 2 ** (bitsPerSample - 1)),
  );
}

/** Where a recording comes to repeat a cycle; −1 where it never does. */
function placeIn(cycle: Float32Array, heard: Float32Array): number {
  return cycle.findIndex((_, at) =>
    heard.subarray(0, 64).every((x, i) => x === cycle[(at + i) % cycle.length]),
  );
}

test('the waltz: its tempo is heard, it loops by bars with intro and tail, is heard as it is made, and handed over', async ({
  browser,
  baseURL,
  request,
}) => {
  const { project, ids } = await projectWith(request, 'Waltz', {
    'waltz.wav': wav(keepersWaltz.make(RATE), RATE),
  });
  const { page, recorded, frames, close } = await recordedPage(browser, baseURL!);
  await open(page, `/p/${project}/shape/${ids[0]}/loop`);
  await page.getByRole('button', { name: 'Loop all of it' }).click();
  await expect(steps(page)).toHaveCount(1);
  await page.getByRole('button', { name: 'Find the tempo' }).click();
  await expect(page.getByText(/Heard: 138 BPM, 3 beats a bar/)).toBeVisible();
  await page.getByRole('button', { name: 'Use it' }).click();
  await expect(field(page, 'Bars of the loop')).toBeVisible();
  await type(page, 'Loop start', 'b5');
  await type(page, 'Bars of the loop', '16');
  await expect(page.getByTestId('remainder')).toHaveText(/^0\.13 of a frame is over/);
  await expect(page.getByRole('slider', { name: 'End of the loop' })).toHaveAttribute(
    'aria-valuenow',
    '1252174',
  );
  const cut = await score(page);
  await page.getByRole('button', { name: 'Intro: all 250,435 frames that there are' }).click();
  await page.getByRole('button', { name: 'Tail: all 62,609 frames that there are' }).click();
  await page.keyboard.press('b');
  await expect(page.getByTestId('loop-cost')).toHaveText(/0:27\.391 → 0:48\.261/);
  await expect.poll(() => score(page)).toBeGreaterThan(cut + 30);
  await expect(steps(page).first()).toContainText('the tail under every repeat');

  // What is heard around the seam is what is handed over.
  await isRecording(page);
  await page.keyboard.press('s');
  await expect(page.getByTestId('passes')).toHaveText('2 passes');
  const before = await frames();
  await expect.poll(frames).toBeGreaterThan(before + 5 * RATE);
  await page.keyboard.press('s');
  const heard = await recorded();
  await page.getByRole('button', { name: 'Handover set…' }).click();
  const sheet = page.getByRole('dialog');
  await sheet.getByRole('textbox', { name: 'passes' }).fill('2');
  await sheet.getByRole('textbox', { name: 'Artist' }).fill('The keeper');
  await sheet.getByRole('button', { name: 'Make the set' }).click();
  const download = page.waitForEvent('download');
  await sheet.getByRole('link', { name: 'Download 6 files' }).click();
  const files = await unzipped([await readFile(await (await download).path())]);
  const [intro, first, repeat] = ['intro', 'first', 'repeat'].map((name) =>
    samplesOf(files.get(`waltz ${name}.wav`)!),
  );
  expect([intro, first, repeat].map((part) => part![0]!.length)).toEqual([
    250_435, 1_001_739, 1_001_739,
  ]);
  expect(files.get('waltz cue.txt')!.toString()).toContain('Tempo: 138 beats a minute');
  repeat!.forEach((channel, c) => {
    const cycle = Float32Array.from([
      ...channel.subarray(channel.length - 2 * RATE),
      ...channel.subarray(0, 2 * RATE),
    ]);
    const sounding = heard[c]!.subarray(before, before + 5 * RATE);
    const at = placeIn(cycle, sounding);
    expect(at).toBeGreaterThanOrEqual(0);
    expect(sounding.findIndex((x, i) => x !== cycle[(at + i) % cycle.length])).toBe(-1);
  });
  await close();
});

test('the surf: a seam that clicks is seen, crossfaded by one key, undone and done again', async ({
  page,
  request,
}) => {
  await open(page, '/p/1/shape/2/loop');
  await expect(page.getByTestId('lens')).toHaveAttribute('data-drawn', 'yes');
  await expect.poll(() => score(page)).toBeLessThan(20);
  await expect(page.getByText('it clicks')).toBeVisible();
  await page.keyboard.press('f');
  await expect.poll(() => score(page)).toBeGreaterThan(90);
  await type(page, 'Length of the crossfade', '1.5');
  await expect(steps(page).first()).toContainText('crossfade of 0:01.500, equal power');
  await page.keyboard.press('Control+z');
  await expect(field(page, 'Length of the crossfade')).toHaveValue('0:00.800');
  await page.keyboard.press('Control+z');
  await expect.poll(() => score(page)).toBeLessThan(20);
  await page.keyboard.press('Control+y');
  await expect.poll(() => score(page)).toBeGreaterThan(90);
  // Longer than what lies in front of it: the loop begins later.
  await type(page, 'Length of the crossfade', '4');
  await expect(field(page, 'Loop start')).toHaveValue('0:04.000');
  const sounds = async () => (await stateOf(request, 1)).sounds.find(({ id }) => id === 2)!;
  await expect.poll(async () => (await sounds()).seam?.score ?? 0).toBeGreaterThan(90);
});

test('an edge that is moved while one listens is heard without a break, to the frame', async ({
  browser,
  baseURL,
  request,
}) => {
  // Every frame says which it is: its upper bits on the left, its lower ones on the right.
  const total = LONG * RATE;
  const left = Float32Array.from({ length: total }, (_, i) => ((i >> 10) + 1) / 32_767);
  const right = Float32Array.from({ length: total }, (_, i) => ((i & 1_023) + 1) / 32_767);
  const { project, ids } = await projectWith(request, 'Edges', {
    'count.wav': wav([left, right], RATE),
  });
  // A twentieth of a second in the middle: every edge is heard as soon as it is moved.
  const startFrame = total / 2;
  const [length, endFrame] = [2_400, startFrame + 2_400];
  const params = { startFrame, endFrame, introFrames: 0, tailFrames: 0 };
  const recipe = { version: 1, steps: [{ kind: 'loop', on: true, params }] };
  await request.patch(`/api/sounds/${ids[0]}`, { data: { recipe } });
  const { page, recorded, pressed, close } = await recordedPage(browser, baseURL!);
  await open(page, `/p/${project}/shape/${ids[0]}/loop`);
  const lens = page.getByTestId('lens');
  await expect(lens).toHaveAttribute('data-drawn', 'yes');
  await isRecording(page);
  await page.keyboard.press('d');
  await expect(page.getByTestId('passes')).toHaveText(/[2-9]\d passes/);
  const drawn: number[] = [];
  for (const key of ['p', 'p', 'p', 'w']) {
    const before = await lens.getAttribute('data-drawn-at');
    await page.evaluate(() =>
      addEventListener('keydown', () => Object.assign(window, { keyAt: performance.now() }), {
        capture: true,
        once: true,
      }),
    );
    await page.keyboard.press(key);
    await expect(lens).not.toHaveAttribute('data-drawn-at', before!);
    const began = await page.evaluate(() => (window as unknown as { keyAt: number }).keyAt);
    drawn.push(Number(await lens.getAttribute('data-drawn-at')) - began);
    await page.waitForTimeout(700);
  }
  await page.keyboard.press('d');
  const [upper, lower] = await recorded();
  const number = (x: number) => Math.round(x * 32_768) - 1;
  const heard = Array.from(upper!, (x, i) =>
    x === 0 ? -1 : number(x) * 1_024 + number(lower![i]!),
  );
  const from = heard.findIndex((at) => at >= 0);
  const to = heard.findLastIndex((at) => at >= 0);
  // From each end to the start, and nowhere else: no frame is missing, none comes twice.
  const jumps: { at: number; end: number; start: number }[] = [];
  for (let at = from + 1; at <= to; at++) {
    const [last, first] = [heard[at - 1]!, heard[at]!];
    if (first !== last + 1) jumps.push({ at, end: last + 1 - endFrame, start: first - startFrame });
  }
  const loops = jumps.map(({ end, start }) => `${start}…${end}`);
  expect([...new Set(loops)]).toEqual(['0…0', '0…1', '0…2', '0…3', '1…3']);
  // The keys behind the first one, which began it.
  const keys = (await pressed()).slice(1, 5);
  const delays = keys.map((key, i) => {
    const moved = jumps.find(({ end, start }) => end + start === i + 1)!;
    return Math.round(((moved.at - key) / RATE) * 1_000);
  });
  report(
    'an edge moved by a frame is heard',
    `${delays.join(', ')} ms (seam every ${length / 48} ms)`,
  );
  report('the lens is drawn', `${drawn.map((ms) => Math.round(ms)).join(', ')} ms from the key`);
  await close();
});

test('pieces become sounds that follow, and what cannot loop says why', async ({
  page,
  request,
}) => {
  const tone = Float32Array.from({ length: 4 * RATE }, (_, i) => 0.4 * Math.sin(i / 15));
  const { project, ids } = await projectWith(request, 'Pieces', { 'hum.wav': wav([tone], RATE) });
  await open(page, `/p/${project}/shape/${ids[0]}/loop`);
  await expect(page.getByText('No loop yet')).toBeVisible();
  await page.getByRole('button', { name: 'Loop all of it' }).click();
  await type(page, 'Loop start', '1');
  await type(page, 'Loop end', '3');
  await type(page, 'Intro', '0.5');
  await field(page, 'Tail').fill('9');
  await expect(page.getByText('At most 0:01.000.')).toBeVisible();
  await page.keyboard.press('Escape');
  await field(page, 'Loop end').fill('0.5');
  await expect(page.getByText('The end must lie behind the start.')).toBeVisible();
  await page.keyboard.press('Escape');
  await field(page, 'Beats a minute').fill('10000');
  await expect(page.getByText('10 to 999')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('heading', { level: 1 }).click();
  await page.getByRole('button', { name: 'Pieces as sounds' }).click();
  await page.getByRole('textbox', { name: 'Names' }).fill('{name}');
  await expect(page.getByText(/\{part\} is missing/)).toBeVisible();
  await page.getByRole('textbox', { name: 'Names' }).fill('{name}_{part}');
  await page.getByRole('button', { name: 'Make 3 sounds' }).click();
  await expect(page).toHaveURL(/collect/);
  const lengths = async () =>
    (await stateOf(request, project)).sounds.map(({ name, facts }) => [name, facts?.frames]);
  await expect.poll(lengths).toEqual([
    ['hum', 4 * RATE],
    ['hum_intro', RATE / 2],
    ['hum_first', 2 * RATE],
    ['hum_repeat', 2 * RATE],
  ]);
});

test('many at once: whole beds are crossfaded, with their seams before and after', async ({
  page,
  request,
}) => {
  const rumble = (seed: number, seconds: number) => {
    let [state, low] = [seed, 0];
    return Float32Array.from({ length: seconds * RATE }, () => {
      state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
      low = low * 0.995 + (state / 4_294_967_296 - 0.5) * 0.05;
      return low;
    });
  };
  const { project, ids } = await projectWith(request, 'Beds', {
    'wind.wav': wav([rumble(3, 3)], RATE),
    'sea.wav': wav([rumble(9, 4)], RATE),
    'dot.wav': wav([new Float32Array(20).fill(0.1)], RATE),
  });
  await open(page, `/p/${project}/shape/loops?sounds=${ids.join()}`);
  const rows = page.getByRole('region', { name: 'Their seams' }).getByRole('row');
  await expect(rows).toHaveCount(4);
  await expect(rows.filter({ hasText: 'dot' })).toContainText('too short');
  await page.getByRole('radio', { name: 'all of each sound' }).check();
  await expect(rows.filter({ hasText: 'wind' })).toContainText('0:00.200 to 0:03.000');
  await page.getByRole('button', { name: 'Hear the seam of wind after' }).click();
  const strip = page.getByRole('region', { name: 'Listening' });
  await expect(strip).toHaveAttribute('data-playing', 'true');
  await page.getByRole('radio', { name: /the same points/ }).check();
  await expect(page.getByText(/one loop does not fit both/)).toBeVisible();
  await expect(page.getByRole('button', { name: /^Apply to/ })).toBeDisabled();
  await page.getByRole('radio', { name: 'all of each sound' }).check();
  await page.getByRole('button', { name: 'Apply to 2 sounds' }).click();
  await expect(page).toHaveURL(/collect/);
  const scores = async () =>
    (await stateOf(request, project)).sounds.map(({ seam }) => (seam?.score ?? 0) > 90);
  await expect.poll(scores).toEqual([true, true, false]);
  await page.keyboard.press('Control+z');
  await expect.poll(scores).toEqual([false, false, false]);
});
