import { expect } from '@playwright/test';
import { open, test } from './page';
import {
  addStep,
  builtFile,
  drag,
  openShape,
  projectWith,
  sentences,
  stateOf,
  steps,
  type,
  wav,
} from './shaping';

const RATE = 48_000;

/** Half a second of silence, three seconds of a tone, half a second of silence. */
function late(hz = 400): Float32Array {
  return Float32Array.from({ length: 4 * RATE }, (_, i) =>
    i < RATE / 2 || i >= 3.5 * RATE ? 0 : 0.5 * Math.sin((2 * Math.PI * hz * i) / RATE),
  );
}

/** A ramp: every frame can be told from its value. */
const ramp = (frames: number) => Float32Array.from({ length: frames }, (_, i) => i / frames / 2);

test('to the frame: a part is marked with the mouse, set by typing, kept, and built so', async ({
  page,
  request,
}) => {
  const { project, ids } = await projectWith(request, 'Trim', {
    'ramp.wav': wav([ramp(2 * RATE)], RATE),
  });
  await openShape(page, project, ids[0]!);
  await drag(page, 0.25, 0.75);
  const start = page.getByRole('slider', { name: 'Start of the marked part' });
  expect(Math.abs(Number(await start.getAttribute('aria-valuenow')) - RATE / 2)).toBeLessThan(400);
  await type(page, 'Start', '12345f');
  await type(page, 'Length', '0:00.500');
  // A nudge to the right of a frame each: by button and by key.
  await page.getByRole('button', { name: /The start a little later/ }).click();
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('w');
  await expect(start).toHaveAttribute('aria-valuenow', '12347');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(steps(page)).toHaveCount(1);
  const built = await builtFile(request, project, ids[0]!);
  expect(built.frames).toBe(24_000 - 2);
  expect(built.samples[0]![0]).toBeCloseTo(12_347 / (2 * RATE) / 2, 4);
  expect(built.samples[0]!.at(-1)).toBeCloseTo((12_345 + 24_000 - 1) / (2 * RATE) / 2, 4);
});

test('by keys alone: only what sounds, cut, fade, level; undone and done again across a reload', async ({
  page,
  request,
}) => {
  const { project, ids } = await projectWith(request, 'Keys', { 'late.wav': wav([late()], RATE) });
  await openShape(page, project, ids[0]!);
  // Head and tail go, twenty milliseconds of air stay.
  await page.keyboard.press('n');
  await expect(page.getByRole('button', { name: 'Keep it' })).toBeEnabled();
  await page.getByRole('button', { name: 'Keep it' }).press('Enter');
  await expect(steps(page)).toHaveCount(1);
  // From the first second on, half a second goes: in the frames of the result.
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('t');
  await expect(page.getByRole('radio', { name: 'Shaped' }).first()).toBeChecked();
  await type(page, 'Start', '1');
  await type(page, 'End', '1.5');
  await page.keyboard.press('x');
  await expect(steps(page)).toHaveCount(2);
  await type(page, 'Start', '2');
  await page.keyboard.press('Shift+F');
  await expect(steps(page)).toHaveCount(3);
  await addStep(page, 'normalise');
  const told = await sentences(page);
  expect(told[0]).toMatch(/^Keep 0:00\.480 to 0:03\.520/);
  expect(told.slice(1)).toEqual([
    'Cut out 0:01.000 to 0:01.500',
    expect.stringMatching(/^Fade out over 0:00\.5\d\d, S$/),
    'Normalise the true peak to −1 dBTP',
  ]);
  await page.keyboard.press('Control+z');
  await expect(steps(page)).toHaveCount(3);
  await page.reload();
  await openShape(page, project, ids[0]!);
  await page.keyboard.press('Control+z');
  await expect(steps(page)).toHaveCount(2);
  await page.keyboard.press('Control+y');
  await expect(steps(page)).toHaveCount(3);
  await page.keyboard.press('Control+y');
  await expect(steps(page)).toHaveCount(4);
  const built = await builtFile(request, project, ids[0]!);
  const loudest = built.samples[0]!.reduce((most, x) => Math.max(most, Math.abs(x)), 0);
  expect(20 * Math.log10(loudest)).toBeCloseTo(-1, 0);
  expect(built.samples[0]!.at(-1)).toBe(0);
  // 3.04 seconds were kept, half a second was cut out.
  expect(Math.abs(built.frames - 2.54 * RATE)).toBeLessThan(20);

  // The history can be read, and gone back in.
  await page.getByText(/^History/).click();
  const history = page.getByRole('list', { name: 'History' });
  await expect(history.getByRole('button')).toContainText([
    'Add normalise',
    'Add fade out',
    'Add cut out',
    'Add keep span',
    'As it came in',
  ]);
  await history.getByRole('button', { name: 'As it came in' }).click();
  await expect(steps(page)).toHaveCount(0);
  await history.getByRole('button', { name: /Add cut out/ }).click();
  await expect(steps(page)).toHaveCount(2);
});

test('the list of steps: set, switched off, moved, taken out, each with what it did', async ({
  page,
  request,
}) => {
  const { project, ids } = await projectWith(request, 'List', {
    'pair.wav': wav([late(), late(401).map((x) => x / 2)], RATE),
  });
  await openShape(page, project, ids[0]!);
  await addStep(page, 'mix');
  await addStep(page, 'gain');
  await expect(steps(page).nth(0)).toContainText('stereo → mono');
  await expect(steps(page).nth(0)).toContainText(/Correlation/);
  await page.getByRole('button', { name: 'Set step 2' }).click();
  await page.getByRole('textbox', { name: 'Change' }).fill('-6');
  await page.keyboard.press('Enter');
  await expect(steps(page).nth(1)).toContainText('Change the level by −6 dB');
  await expect(steps(page).nth(1)).toContainText(/peak −\d+\.\d → −\d+\.\d dBFS/);
  // Louder than full scale is said, with what would fit.
  await page.getByRole('textbox', { name: 'Change' }).fill('20');
  await page.keyboard.press('Enter');
  await expect(steps(page).nth(1)).toContainText(/Peaks reach \d+\.\d dBFS here/);
  await page.getByRole('button', { name: /^Use .* dB, which peaks at/ }).click();
  await expect(steps(page).nth(1)).not.toContainText('Peaks reach');
  await page.getByRole('button', { name: 'Step 2 earlier' }).click();
  await expect(steps(page).nth(0)).toContainText('Change the level');
  // Moved with the keys: there, back, and there again without looking.
  await page.getByRole('button', { name: 'Move step 1' }).focus();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByText('Now at place 2 of 2.')).toBeAttached();
  await expect(page.getByRole('button', { name: 'Move step 2' })).toBeFocused();
  for (const key of ['ArrowUp', 'ArrowDown', 'ArrowDown']) await page.keyboard.press(key);
  await expect(steps(page).nth(0)).toContainText('Mix both channels');
  await page.getByRole('checkbox', { name: 'Step 2 is on' }).uncheck();
  await expect(steps(page).nth(1)).toHaveAttribute('data-off', 'true');
  await page.getByRole('button', { name: 'Take step 1 out' }).click();
  await expect(steps(page)).toHaveCount(1);
  // The page shows it before the server has it.
  await expect
    .poll(async () => (await stateOf(request, project)).sounds[0]!.recipe.steps)
    .toMatchObject([{ kind: 'gain', on: false }]);
});

test('what cannot be done is refused or marked, and said in words', async ({ page, request }) => {
  const { project, ids } = await projectWith(request, 'Bad', {
    'ramp.wav': wav([ramp(RATE)], RATE),
  });
  await openShape(page, project, ids[0]!);
  await page.keyboard.press('Control+a');
  await page.getByRole('button', { name: 'Cut out' }).click();
  await expect(page.getByText('That would cut out the whole sound.')).toBeVisible();
  await expect(steps(page)).toHaveCount(0);
  await type(page, 'Start', '0.6');
  await type(page, 'End', '0.8');
  await page.keyboard.press('b');
  await expect(steps(page)).toHaveCount(1);
  // What is kept ends before what is blanked: that stays, marked, and nothing is built.
  await type(page, 'Start', '0');
  await type(page, 'End', '0.5');
  await page.keyboard.press('Enter');
  await expect(steps(page)).toHaveCount(2);
  await expect(steps(page).nth(1)).toContainText('The span lies outside the sound');
  await expect(page.getByRole('radio', { name: 'Shaped' }).first()).toBeDisabled();
  await expect
    .poll(async () => (await stateOf(request, project)).sounds[0]!.recipe.steps[1]?.params)
    .toEqual({ startFrame: 28_800, endFrame: 38_400 });
  // A step of a newer Bijou is shown as unknown.
  const sparkle = { version: 1, steps: [{ kind: 'sparkle', on: true, params: { much: 1 } }] };
  await request.patch(`/api/sounds/${ids[0]}`, { data: { recipe: sparkle } });
  await expect(steps(page).nth(0)).toContainText('does not know');
  // Normalising silence cannot be known before it is measured.
  const silence = await projectWith(request, 'Silence', {
    'nothing.wav': wav([new Float32Array(RATE)], RATE),
  });
  await openShape(page, silence.project, silence.ids[0]!);
  await addStep(page, 'normalise');
  await expect(steps(page).nth(0)).toContainText('The sound is silent');
});

test('many at once: previewed, applied, the one that cannot is named; a saved recipe does it again', async ({
  page,
  request,
}) => {
  const files = Object.fromEntries(
    Array.from({ length: 5 }, (_, n) => [
      `stem ${n}.wav`,
      wav([late(300 + n), late(450 + n)], n === 4 ? 24_000 : RATE),
    ]),
  );
  files['tick.wav'] = wav([ramp(100), ramp(100)], RATE);
  const { project, ids } = await projectWith(request, 'Stems', files);
  await open(page, `/p/${project}/collect`);
  await page.getByRole('row').nth(1).click();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('s');
  await expect(page.getByRole('heading', { name: 'Shape several' })).toBeVisible();
  await addStep(page, 'mix');
  await addStep(page, 'fade in');
  await addStep(page, 'normalise');
  const preview = page.getByRole('region', { name: 'What it does to each' });
  const line = (name: string) => preview.getByRole('row').filter({ hasText: name });
  await expect(line('stem 0')).toContainText('48 kHz, stereo → 48 kHz, mono');
  await expect(line('stem 0')).toContainText(/→ −1\.\d/);
  await expect(line('tick')).toContainText('Cannot take them: The fade is longer');
  await page.getByRole('checkbox', { name: 'Apply to stem 3' }).uncheck();
  await page.getByRole('button', { name: 'Save the recipe' }).click();
  await page.getByRole('textbox', { name: 'Name of the recipe' }).fill('For phones');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Saved as “For phones”')).toBeVisible();
  await page.getByRole('button', { name: 'Apply to 4 sounds' }).click();
  await expect(page.getByRole('heading', { name: 'Collect' })).toBeVisible();
  const counts = async () =>
    (await stateOf(request, project)).sounds.map(({ recipe }) => recipe.steps.length);
  expect(await counts()).toEqual([3, 3, 3, 0, 3, 0]);
  // Ten milliseconds at each sound's own rate.
  const { sounds } = await stateOf(request, project);
  expect(sounds[0]!.recipe.steps[1]!.params['frames']).toBe(480);
  expect(sounds[4]!.recipe.steps[1]!.params['frames']).toBe(sounds[4]!.facts!.sampleRateHz / 100);
  const built = await builtFile(request, project, ids[1]!);
  expect(built.samples[0]![0]).toBe(0);
  // The file was sent for building, which is undone first.
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect.poll(counts).toEqual([0, 0, 0, 0, 0, 0]);

  // The saved recipe on one sound.
  await openShape(page, project, ids[3]!);
  await page.getByRole('button', { name: 'Saved recipes' }).click();
  await page.getByRole('button', { name: /^For phones/ }).click();
  await expect(steps(page)).toHaveCount(3);
  await page.getByRole('button', { name: 'Saved recipes' }).click();
  await page.getByRole('button', { name: 'Forget the recipe For phones' }).click();
  await expect(page.getByText('No recipe is saved yet', { exact: false })).toBeVisible();
});

test('join: ordered, with a gap and an overlap, measured in the built file; follows its parts', async ({
  page,
  request,
}) => {
  const { project, ids } = await projectWith(request, 'Joined', {
    'a.wav': wav([late(300)], RATE),
    'b.wav': wav([late(400), late(500)], 24_000),
    'c.wav': wav([ramp(RATE)], RATE),
  });
  await open(page, `/p/${project}/collect`);
  await page.getByRole('row').nth(1).click();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('j');
  await expect(page.getByRole('heading', { name: 'Join', exact: true })).toBeVisible();
  const parts = page.getByRole('list', { name: 'Parts' });
  await expect(parts).toContainText('mono → stereo: the same on both sides');
  await expect(parts).toContainText('24 kHz → 48 kHz: resampled');
  await page.getByRole('textbox', { name: 'Gap behind part 1' }).fill('-9');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/shorter than its overlaps/)).toBeVisible();
  await page.getByRole('textbox', { name: 'Gap behind part 1' }).fill('-0.25');
  await page.keyboard.press('Enter');
  await page.getByRole('textbox', { name: 'Gap behind part 2' }).fill('4800f');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Part 3 earlier' }).click();
  await page.getByRole('button', { name: 'Part 2 later' }).click();
  await page.getByRole('textbox', { name: 'Name of the new sound' }).fill('storm');
  await page.getByRole('button', { name: 'Join them' }).click();
  await expect(page).toHaveURL(/shape\/\d+$/);
  const id = Number(/\d+$/.exec(page.url())![0]);
  const frames = 4 * RATE - 12_000 + 8 * RATE + 4_800 + RATE;
  await expect(page.getByText(`(${frames.toLocaleString('en')} frames)`)).toBeVisible();
  expect(await builtFile(request, project, id)).toMatchObject({
    frames,
    channels: 2,
    rateHz: RATE,
  });

  await page.getByText('Sheet: where each part begins', { exact: false }).click();
  const sheet = page.getByRole('table', { name: 'Sheet' });
  await expect(sheet.getByRole('row').nth(2)).toContainText('3.750000');
  const json = await (await request.get(`/api/sounds/${id}/sheet`)).json();
  expect(json.sounds[2]).toMatchObject({ name: 'c', startFrame: frames - RATE, frames: RATE });
  const csv = await (await request.get(`/api/sounds/${id}/sheet?format=csv`)).text();
  expect(csv.split('\r\n')[0]).toBe('name,startFrame,frames,startSeconds,seconds');

  // A part that is changed elsewhere changes here.
  const keep = { kind: 'keep', on: true, params: { startFrame: 0, endFrame: RATE / 2 } };
  await request.patch(`/api/sounds/${ids[2]}`, { data: { recipe: { version: 1, steps: [keep] } } });
  await expect(
    page.getByText(`(${(frames - RATE / 2).toLocaleString('en')} frames)`),
  ).toBeVisible();
});
