import { expect, type Page } from '@playwright/test';
import { focused, isFocusLost, strike, type LayoutName } from './keyboard';
import { open, test } from './page';
import { addStep, openShape, projectWith, stateOf, steps, wav } from './shaping';
import { sine } from '../core/signals';

const RATE = 8_000;
const tone = (hz: number) => wav([sine(RATE, hz, RATE)], RATE);
const three = () => ({ 'one.wav': tone(300), 'two.wav': tone(400), 'three.wav': tone(500) });
const line = (page: Page, name: string) =>
  page.getByRole('row').filter({ has: page.getByRole('link', { name, exact: true }) });

describeLayouts('the key sheet', async (page, layout, { project, request }) => {
  await open(page, `/p/${project}/collect`);
  await line(page, 'two').getByText('mono').click();
  await strike(page, layout, '?');
  const sheet = page.getByRole('dialog', { name: 'Keyboard shortcuts' });
  await expect(sheet).toBeVisible();
  // Beneath it nothing hears keys.
  for (const key of ['x', 'shift+d', 's', '/', 'ctrl+a']) await strike(page, layout, key);
  await page.keyboard.press('Delete');
  await page.keyboard.press('4');
  await expect(sheet).toBeVisible();
  expect(page.url()).toContain('/collect');
  expect((await stateOf(request, project)).sounds).toHaveLength(3);
  await page.keyboard.press('Escape');
  await expect(sheet).toBeHidden();
  // Where one was, keys mean what they meant.
  await page.keyboard.press('Delete');
  await expect.poll(async () => (await stateOf(request, project)).sounds.length).toBe(2);
});

describeLayouts('undo, search and zoom', async (page, layout, { project, ids, request }) => {
  await open(page, `/p/${project}/collect`);
  await strike(page, layout, '/');
  await expect(page.getByRole('searchbox')).toBeFocused();
  await page.keyboard.type('two');
  await page.keyboard.press('Enter');
  await expect(line(page, 'two')).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('Delete');
  const count = async () => (await stateOf(request, project)).sounds.length;
  await expect.poll(count).toBe(2);
  await strike(page, layout, 'ctrl+z');
  await expect.poll(count).toBe(3);
  await strike(page, layout, 'ctrl+y');
  await expect.poll(count).toBe(2);
  await strike(page, layout, 'ctrl+z');
  await expect.poll(count).toBe(3);

  await openShape(page, project, ids[0]!);
  const shown = page.getByText(/^showing/);
  await expect(shown).toContainText('8,000 frames');
  await strike(page, layout, '+');
  await expect(shown).toContainText('4,000 frames');
  await strike(page, layout, '-');
  await expect(shown).toContainText('8,000 frames');
  await page.keyboard.press('ArrowRight');
  await strike(page, layout, 'shift+q');
  await page.keyboard.press('End');
  await strike(page, layout, 'shift+p');
  await expect(page.getByRole('slider', { name: 'Start of the marked part' })).toHaveAttribute(
    'aria-valuenow',
    '1',
  );
});

/** The same on an English and on a German keyboard. */
function describeLayouts(
  name: string,
  work: (
    page: Page,
    layout: LayoutName,
    made: Awaited<ReturnType<typeof projectWith>> & {
      request: Parameters<typeof stateOf>[0];
    },
  ) => Promise<void>,
): void {
  for (const layout of ['us', 'german'] as const) {
    test(`${name}, on a keyboard that is ${layout}`, async ({ page, request }) => {
      const made = await projectWith(request, `Keys ${layout}`, three());
      await work(page, layout, { ...made, request });
    });
  }
}

test('beneath panels and sheets nothing is done, and Escape closes them wherever the focus is', async ({
  page,
  request,
}) => {
  const { project, ids } = await projectWith(request, 'Panels', three());
  const names = async () => (await stateOf(request, project)).sounds.map(({ name }) => name);
  await open(page, `/p/${project}/collect`);
  await line(page, 'two').getByText('mono').click();
  const chosen = page.getByRole('toolbar', { name: 'Chosen sounds' });

  // Opened by a key: the field has the focus, and what is typed is text.
  for (const [key, label] of [
    ['g', 'Group'],
    ['t', 'Label'],
    ['n', 'Note'],
  ] as const) {
    await page.keyboard.press(key);
    await page.keyboard.type('xsd');
    const panel = page.getByRole('group', { name: label, exact: true });
    await expect(panel.locator('input')).toHaveValue('xsd');
    await page.keyboard.press('Escape');
    await expect(panel).toBeHidden();
    await expect(line(page, 'two')).toHaveAttribute('aria-selected', 'true');
  }
  // With the focus on a button of the panel, too.
  await chosen.getByRole('button', { name: 'Send to destinations' }).click();
  const panel = page.getByRole('group', { name: 'Send to destinations' });
  await page.keyboard.press('Tab');
  await page.keyboard.press('Delete');
  await page.keyboard.press('x');
  await page.keyboard.press('Escape');
  await expect(panel).toBeHidden();
  expect(await focused(page)).toBe('Send to destinations');
  expect(await names()).toEqual(['one', 'two', 'three']);

  // Rename: Cancel is pressed by Enter, and nothing else happens.
  await line(page, 'two').getByText('mono').click();
  await page.keyboard.press('F2');
  const dialog = page.getByRole('dialog', { name: 'Rename' });
  await dialog.getByRole('button', { name: 'Cancel' }).focus();
  await page.keyboard.press('Delete');
  await page.keyboard.press('x');
  await page.keyboard.press('Shift+D');
  await page.keyboard.press('Enter');
  await expect(dialog).toBeHidden();
  expect(page.url()).toContain('/collect');
  expect(await names()).toEqual(['one', 'two', 'three']);
  expect(await isFocusLost(page)).toBe(false);

  // At the other stations.
  await openShape(page, project, ids[0]!);
  await page.keyboard.press('a');
  await page.keyboard.press('Tab');
  await page.keyboard.press('x');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('textbox', { name: 'Search steps' })).toBeHidden();
  await expect(steps(page)).toHaveCount(0);
  await open(page, `/p/${project}/pack/destinations`);
  await page.getByRole('button', { name: /^Project:/ }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByLabel('Name of a new project')).toBeHidden();
  await page.getByRole('button', { name: /^Project:/ }).click();
  await page.mouse.click(900, 400);
  await expect(page.getByLabel('Name of a new project')).toBeHidden();
});

test('Enter and Space press the button that has the focus, and do nothing else', async ({
  page,
  request,
}) => {
  const { project } = await projectWith(request, 'Buttons', three());
  await open(page, `/p/${project}/collect`);
  await line(page, 'two').getByText('mono').click();
  const hear = page.getByRole('button', { name: 'Hear on choosing' });
  await hear.focus();
  await page.keyboard.press('Enter');
  await expect(hear).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('Space');
  await expect(hear).toHaveAttribute('aria-pressed', 'false');
  expect(page.url()).toContain('/collect');
  const strip = page.getByRole('region', { name: 'Listening' });
  await expect(strip).toHaveAttribute('data-playing', 'false');
  // A button that was pressed with the mouse does not keep the space bar to itself.
  await line(page, 'two').getByText('mono').click();
  await hear.click();
  await page.keyboard.press('Space');
  await expect(strip).toHaveAttribute('data-playing', 'true');
  await expect(hear).toHaveAttribute('aria-pressed', 'true');
});

test('a name that is one long word leaves the focus to its field', async ({ page, request }) => {
  const long = 'a'.repeat(70);
  const { project } = await projectWith(request, 'Long', { [`${long}.wav`]: tone(300) });
  await open(page, `/p/${project}/collect`);
  await page.getByRole('row').nth(1).getByText('mono').click();
  await page.keyboard.press('F2');
  await page.keyboard.type('sea');
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('sea');
  await page.keyboard.press('Enter');
  await expect(line(page, 'sea')).toBeVisible();
  expect(page.url()).toContain('/collect');
});

test('what is typed as soon as a field is there stays', async ({ page, request }) => {
  const { project } = await projectWith(request, 'At once', three());
  await open(page, `/p/${project}/collect`);
  // In the moment in which the field is put into the page, before anything else can run.
  await page.evaluate(() => {
    const type = () => {
      const field = document.querySelector<HTMLInputElement>('[aria-label="Marked part"] input');
      if (!field) return;
      watcher.disconnect();
      field.focus();
      document.execCommand('insertText', false, '0.5');
    };
    const watcher = new MutationObserver(type);
    watcher.observe(document.body, { childList: true, subtree: true });
  });
  await page.getByRole('link', { name: 'two', exact: true }).click();
  const start = page
    .getByRole('region', { name: 'Marked part' })
    .getByLabel('Start', { exact: true });
  await expect(start).toBeFocused();
  await page.keyboard.type('5');
  await expect(start).toHaveValue('0.55');
});

test('the focus is never lost to the page', async ({ page, request }) => {
  const { project, ids } = await projectWith(request, 'Focus', three());
  const stays = () => expect.poll(() => isFocusLost(page)).toBe(false);
  await openShape(page, project, ids[0]!);
  for (const kind of ['reverse', 'polarity', 'gain']) await addStep(page, kind);
  // Moved twice in the same direction, with the same button.
  await page.getByRole('button', { name: 'Step 3 earlier' }).focus();
  await page.keyboard.press('Enter');
  await expect(steps(page).nth(1)).toContainText('Change the level');
  await stays();
  expect(await focused(page)).toBe('Step 2 earlier');
  await page.keyboard.press('Enter');
  await expect(steps(page).first()).toContainText('Change the level');
  await stays();
  // Taken out until none is left.
  for (let left = 3; left > 0; left--) {
    await page.getByRole('button', { name: `Take step ${left} out` }).focus();
    await page.keyboard.press('Enter');
    await expect(steps(page)).toHaveCount(left - 1);
    await stays();
  }
  // Sending and building.
  await open(page, `/p/${project}/pack/destinations`);
  const first = page.getByRole('region', { name: 'AR filter' });
  await first.getByRole('button', { name: 'Add sounds to AR filter' }).focus();
  await page.keyboard.press('Enter');
  await page.keyboard.type('one');
  await page.keyboard.press('Enter');
  await expect(first.getByRole('link', { name: 'one' })).toBeVisible();
  await stays();
  await first.getByRole('button', { name: 'Build' }).focus();
  await page.keyboard.press('Enter');
  await expect(first).toContainText('Decoded again');
  await stays();
  await first.getByRole('button', { name: 'Do not send one to AR filter' }).focus();
  await page.keyboard.press('Enter');
  await expect(first).toContainText('No sound goes here yet');
  await stays();
});

test('from the list its verbs are a few Tabs away', async ({ page, request }) => {
  const { project } = await projectWith(request, 'Tabs', three());
  await open(page, `/p/${project}/collect`);
  await page.keyboard.press('ArrowDown');
  const reached: (string | null)[] = [];
  for (let n = 0; n < 12; n++) {
    await page.keyboard.press('Tab');
    reached.push(await focused(page));
  }
  expect(reached.findIndex((name) => name === 'Group')).toBeGreaterThan(0);
  expect(reached.slice(0, 10)).toEqual(expect.arrayContaining(['Group', 'Label', 'Note']));
});
