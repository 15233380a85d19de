import { expect, type Page } from '@playwright/test';
import {
  addStep,
  builtFile,
  drag,
  openShape,
  projectWith,
  stateOf,
  steps,
  type,
  wav,
} from './shaping';
import { test } from './page';

const RATE = 48_000;
const strip = (page: Page) => page.getByRole('region', { name: 'Listening' });
const frameHeard = async (page: Page) => Number(await strip(page).getAttribute('data-frame'));
const edge = (page: Page, name: 'Start' | 'End') =>
  page.getByRole('slider', { name: `${name} of the marked part` });
const toWorkbench = (page: Page) => page.getByRole('heading', { level: 1 }).click();

/** Two tones with silence in front, between and behind. */
function twoTones(): Float32Array {
  const isTone = (i: number) => (i >= 12_000 && i < 36_000) || (i >= 72_000 && i < 90_000);
  return Float32Array.from({ length: 2 * RATE }, (_, i) =>
    // A little beside the zero crossing, so that every frame of a tone is louder than silence.
    isTone(i) ? 0.4 * Math.sin((2 * Math.PI * 100 * (i + 0.5)) / RATE) : 0,
  );
}

test('silence edges, zero crossings, nudges and bars', async ({ page, request }) => {
  const { project, ids } = await projectWith(request, 'Finding', {
    'two.wav': wav([twoTones()], RATE),
  });
  await openShape(page, project, ids[0]!);
  // From edge to edge: the tone begins near its frame, for its first frames are quieter than silence.
  for (const near of [12_000, 36_000, 72_000, 90_000]) {
    await page.keyboard.press('.');
    await expect.poll(async () => Math.abs((await frameHeard(page)) - near)).toBeLessThan(8);
  }
  await page.keyboard.press('.');
  await expect(page.getByText('There is no silence edge on that side.')).toBeVisible();
  await page.keyboard.press(',');
  await expect.poll(async () => Math.abs((await frameHeard(page)) - 72_000)).toBeLessThan(8);

  // A hundred Hertz crosses zero every 240 frames, between two of them.
  await type(page, 'Start', '20100f');
  await type(page, 'End', '30100f');
  await page.getByTitle('How far one nudge goes (U)').selectOption('crossing');
  await toWorkbench(page);
  await page.keyboard.press('w');
  await expect(edge(page, 'Start')).toHaveAttribute('aria-valuenow', '20160');
  await page.keyboard.press('w');
  await expect(edge(page, 'Start')).toHaveAttribute('aria-valuenow', '20400');
  await page.keyboard.press('o');
  await expect(edge(page, 'End')).toHaveAttribute('aria-valuenow', '30000');
  await page.keyboard.press('u');
  await page.keyboard.press('p');
  await expect(edge(page, 'End')).toHaveAttribute('aria-valuenow', '30001');
  await page.keyboard.press('u');
  await page.keyboard.press('q');
  await expect(edge(page, 'Start')).toHaveAttribute('aria-valuenow', '20352');

  // With snapping on, what is typed goes to the crossings next to it.
  await page.getByRole('button', { name: /Ends of the mark go to zero crossings/ }).click();
  await type(page, 'Start', '20100f');
  await expect(edge(page, 'Start')).toHaveAttribute('aria-valuenow', '20160');
  await page.keyboard.press('c');

  // Bars and beats: refused without a tempo, understood with one.
  const start = page
    .getByRole('region', { name: 'Marked part' })
    .getByRole('textbox', { name: 'Start' });
  await start.fill('b1.2');
  await expect(page.getByText(/Bars and beats need a tempo/)).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Tempo' }).click();
  await page.getByRole('textbox', { name: 'Beats a minute' }).fill('5000');
  await expect(page.getByText(/10 to 999 beats a minute/)).toBeVisible();
  await page.getByRole('textbox', { name: 'Beats a minute' }).fill('240');
  await page.getByRole('button', { name: 'Set', exact: true }).click();
  await expect(page.getByRole('radio', { name: 'Bars' })).toBeChecked();
  await type(page, 'Start', 'b1.2');
  await expect(edge(page, 'Start')).toHaveAttribute('aria-valuenow', '12000');
  await expect(page.getByText('frame 12,000 · b1.2')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await stateOf(request, project)).sounds[0]!.tempo).toBeNull();
});

test('an edge is heard with two seconds on both sides; the mark with the play keys', async ({
  page,
  request,
}) => {
  const tone = Float32Array.from({ length: 8 * RATE }, (_, i) => 0.5 * Math.sin(i * 0.05));
  const { project, ids } = await projectWith(request, 'Edges', { 'tone.wav': wav([tone], RATE) });
  await openShape(page, project, ids[0]!);
  await type(page, 'Start', '3');
  await type(page, 'End', '5');
  await page.keyboard.press('s');
  await expect(strip(page)).toHaveAttribute('data-playing', 'true');
  await expect.poll(() => frameHeard(page)).toBeGreaterThan(RATE + 4_800);
  const slider = strip(page).getByRole('slider', { name: 'Position' });
  expect([await slider.getAttribute('min'), await slider.getAttribute('max')]).toEqual([
    String(RATE),
    String(5 * RATE - 1),
  ]);
  await page.keyboard.press('d');
  await expect(slider).toHaveAttribute('min', String(3 * RATE));
  await expect(slider).toHaveAttribute('max', String(7 * RATE - 1));
  await page.keyboard.press('Shift+Space');
  await expect(slider).toHaveAttribute('min', String(3 * RATE));
  await expect(slider).toHaveAttribute('max', String(5 * RATE - 1));
  await page.keyboard.press('Space');
  await expect(strip(page)).toHaveAttribute('data-playing', 'false');
});

test('the picture: dB, spectrogram, single frames, the shaped sound with the same part marked', async ({
  page,
  request,
}) => {
  const { project, ids } = await projectWith(request, 'Picture', {
    'two.wav': wav([twoTones(), twoTones()], RATE),
  });
  await openShape(page, project, ids[0]!);
  await page.keyboard.press('y');
  await expect(page.getByRole('radio', { name: 'dB' })).toBeChecked();
  await page.keyboard.press('g');
  await expect(page.getByTestId('spectrogram')).toHaveAttribute('data-ready', 'true');
  await page.keyboard.press('g');
  await expect(page.getByTestId('spectrogram')).toBeHidden();
  await page.keyboard.press('r');
  await expect(page.getByRole('radio', { name: 'Frames' })).toBeChecked();
  await type(page, 'Start', '24000f');
  await type(page, 'End', '24100f');
  await page.keyboard.press('9');
  await expect(page.getByText(/showing frame 23,995 to frame 24,105, 110 frames/)).toBeVisible();
  await page.keyboard.press('0');
  // Behind a cut and a reversal the same part lies elsewhere.
  await type(page, 'Start', '0');
  await type(page, 'End', '0.25');
  await page.keyboard.press('x');
  await expect(steps(page)).toHaveCount(1);
  await addStep(page, 'reverse');
  await type(page, 'Start', '24000f');
  await type(page, 'End', '25000f');
  await page.keyboard.press('t');
  await expect(edge(page, 'Start')).toHaveAttribute('aria-valuenow', String(84_000 - 13_000));
  await expect(edge(page, 'End')).toHaveAttribute('aria-valuenow', String(84_000 - 12_000));
  await page.keyboard.press('t');
  await expect(edge(page, 'Start')).toHaveAttribute('aria-valuenow', '24000');
  // What is cut away already cannot be cut out once more.
  await drag(page, 0.01, 0.1);
  await page.keyboard.press('x');
  await expect(page.getByText('That part is cut away already.')).toBeVisible();
  await expect(steps(page)).toHaveCount(2);
});

test('repair: clicks are found, named and heard before and after; a wrong rate is corrected', async ({
  page,
  request,
}) => {
  const clicked = Float32Array.from({ length: 2 * RATE }, (_, i) => 0.3 * Math.sin(i * 0.05));
  for (const at of [30_000, 60_000]) clicked[at]! += 0.6;
  const { project, ids } = await projectWith(request, 'Repair', {
    'clicked.wav': wav([clicked], RATE),
  });
  await openShape(page, project, ids[0]!);
  await addStep(page, 'declick');
  // Nothing is changed before one has seen what it would be.
  await expect(steps(page).first()).toContainText('2 clicks found, and left as they are');
  await expect(page.getByRole('checkbox', { name: 'Step 1 is on' })).not.toBeChecked();
  await page.getByRole('button', { name: 'Mend these 2 clicks' }).click();
  await expect(steps(page).first()).toContainText('2 clicks found and mended');
  await expect(steps(page).first()).toContainText('0:00.625');
  await steps(page).first().getByRole('button', { name: 'After' }).first().click();
  await expect(strip(page).getByRole('radio', { name: 'after step 1' })).toBeChecked();
  await expect(strip(page)).toHaveAttribute('data-playing', 'true');
  await steps(page).first().getByRole('button', { name: 'Before' }).first().click();
  await expect(strip(page).getByRole('radio', { name: 'Source' })).toBeChecked();
  await toWorkbench(page);
  await page.keyboard.press('Space');
  await addStep(page, 'relabel');
  await expect(steps(page).nth(1)).toContainText('0:02.000 become 0:04.000');
  await page.getByRole('button', { name: 'Set step 2' }).click();
  const rate = page.getByRole('textbox', { name: 'Rate in Hz' });
  await rate.fill('12');
  await expect(page.getByText('1,000 to 768,000, in whole hertz')).toBeVisible();
  await rate.fill('32000');
  await page.keyboard.press('Enter');
  await expect(steps(page).nth(1)).toContainText('48 kHz → 32 kHz');
  await expect(steps(page).nth(1)).toContainText('(48000 ÷ 32000 = 1.5)');
  const built = await builtFile(request, project, ids[0]!);
  // Corrected, it is half as long again; the destination wants 48 kHz.
  expect(built).toMatchObject({ rateHz: RATE, frames: 3 * RATE });
  // A click cannot be found in what was built: no step is larger than the tone's own.
  const jump = (from: number) => {
    const [x] = built.samples;
    return Math.max(
      ...Array.from({ length: 200 }, (_, i) => Math.abs(x![from + i]! - x![from + i - 1]!)),
    );
  };
  expect(jump(45_000 - 100)).toBeLessThan(0.02);
});

test('copies: a sound, its channels, its steps', async ({ page, request }) => {
  const { project, ids } = await projectWith(request, 'Copies', {
    'pair.wav': wav([twoTones(), twoTones().map((x) => x / 4)], RATE),
    'other.wav': wav([twoTones().reverse()], 24_000),
  });
  await openShape(page, project, ids[0]!);
  await addStep(page, 'fade in');
  await page.keyboard.press('Shift+C');
  await expect(page.getByText('1 step copied.')).toBeVisible();
  await page.keyboard.press('Shift+S');
  await expect(page.getByText('Made “pair L” and “pair R”.')).toBeVisible();
  await expect(page.getByRole('combobox', { name: 'Sound' })).toContainText('pair L');
  const { sounds } = await stateOf(request, project);
  const right = sounds.find(({ name }) => name === 'pair R')!;
  const built = await builtFile(request, project, right.id);
  expect(built.channels).toBe(1);
  expect(Math.max(...built.samples[0]!)).toBeCloseTo(0.1, 2);
  // The copied steps fit another rate: ten milliseconds there too.
  await openShape(page, project, ids[0]!);
  await page.keyboard.press('Shift+C');
  await page.keyboard.press('PageDown');
  await expect(page.getByRole('combobox', { name: 'Sound' })).toHaveValue(String(ids[1]));
  await expect(steps(page)).toHaveCount(0);
  await page.keyboard.press('Shift+V');
  await expect(steps(page)).toHaveCount(1);
  const otherSteps = async () =>
    (await stateOf(request, project)).sounds.find(({ id }) => id === ids[1])!.recipe.steps;
  await expect.poll(otherSteps).toMatchObject([{ params: { frames: 240 } }]);
  await page.keyboard.press('Shift+D');
  await expect(page.getByText('Made “other copy”.')).toBeVisible();
  await expect(steps(page)).toHaveCount(1);
});

test('only what sounds: the threshold is moved, the proposal said, marked or kept', async ({
  page,
  request,
}) => {
  const quiet = twoTones().map((x, i) => x + (i < 12_000 ? 0.003 * Math.sin(i * 0.3) : 0));
  const { project, ids } = await projectWith(request, 'Sounding', {
    'two.wav': wav([quiet], RATE),
    'nothing.wav': wav([new Float32Array(RATE)], RATE),
  });
  await openShape(page, project, ids[0]!);
  await page.getByRole('button', { name: 'Only what sounds' }).click();
  const panel = page.getByRole('group', { name: 'Only what sounds' });
  await expect(panel).toContainText('0:00.000 of silence in front');
  // Above the hum the first tone is the beginning.
  await panel.getByRole('slider').fill('-40');
  await expect(panel).toContainText('0:00.230 to 0:01.895');
  await panel.getByRole('spinbutton').fill('0');
  await expect(panel).toContainText('0:00.250 to 0:01.875');
  await panel.getByRole('button', { name: 'Mark it' }).click();
  await expect(edge(page, 'End')).toHaveAttribute('aria-valuenow', /^899\d\d$|^90000$/);
  await expect(steps(page)).toHaveCount(0);
  await openShape(page, project, ids[1]!);
  await page.getByRole('button', { name: 'Only what sounds' }).click();
  await expect(page.getByText('there is no sound to keep', { exact: false })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Keep it' })).toBeDisabled();
});

test('a mark follows its sound when that becomes shorter, and nothing is shown that cannot be made', async ({
  page,
  request,
}) => {
  const { project, ids } = await projectWith(request, 'Shorter', {
    'two.wav': wav([twoTones()], RATE),
  });
  await openShape(page, project, ids[0]!);
  await addStep(page, 'pad');
  await page.keyboard.press('t');
  await type(page, 'Start', '1.9');
  await type(page, 'End', '2.4');
  await page.getByRole('button', { name: 'Take step 1 out' }).click();
  await expect(steps(page)).toHaveCount(0);
  await expect(edge(page, 'End')).toHaveAttribute('aria-valuenow', String(2 * RATE));
  // With a step that cannot be done the source is shown again.
  await addStep(page, 'reverse');
  await expect(page.getByRole('radio', { name: 'Shaped' }).first()).toBeChecked();
  const sparkle = { version: 1, steps: [{ kind: 'sparkle', on: true, params: {} }] };
  await request.patch(`/api/sounds/${ids[0]}`, { data: { recipe: sparkle } });
  await expect(steps(page).first()).toContainText('does not know');
  await expect(page.getByRole('radio', { name: 'Source' }).first()).toBeChecked();
  await expect(page.getByRole('radio', { name: 'Shaped' }).first()).toBeDisabled();
});
