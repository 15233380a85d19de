import { readFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import yauzl from 'yauzl';
import { buffer } from 'node:stream/consumers';
import { PNG } from 'pngjs';
import { expectPlaying, strip } from './dropping';
import { open, test } from './page';
import { place } from './place';
import { stateOf } from './shaping';

/** The demo project once more: what is done to it is in nobody’s way. */
async function openCopy(page: Page, path: string): Promise<number> {
  const answer = await page.request.post('/api/projects/1/copy');
  const { id } = (await answer.json()) as { id: number };
  await open(page, `/p/${id}/pack/${path}`);
  return id;
}

/** Saves what a press downloads. */
async function saved(page: Page, press: () => Promise<void>): Promise<string> {
  const download = page.waitForEvent('download');
  await press();
  const path = place((await download).suggestedFilename());
  await (await download).saveAs(path);
  return path;
}

async function unzip(path: string): Promise<Map<string, Buffer>> {
  const zip = await yauzl.fromBufferPromise(readFileSync(path), { lazyEntries: true });
  const files = new Map<string, Buffer>();
  for await (const entry of zip.eachEntry()) {
    files.set(entry.fileName, await buffer(await zip.openReadStreamPromise(entry)));
  }
  return files;
}

const article = (page: Page) => page.getByRole('article', { name: 'Pack of Game mod' });
const slotField = (page: Page, path: string) =>
  page.getByRole('combobox', { name: `Sound for ${path}` });

test('a pack from its layout to a zip: slots by dragging, title, icon, build, download, patch', async ({
  page,
}) => {
  await openCopy(page, 'layout/game-mod');
  await expect(slotField(page, 'places/cave.ogg')).toHaveValue('');
  // Onto a slot with the mouse; what filled another one goes out of it by choice.
  const chip = page.getByRole('list', { name: 'Sounds that go here' }).getByText('gull').first();
  await chip.scrollIntoViewIfNeeded();
  const [from, to] = [
    await chip.boundingBox(),
    await slotField(page, 'places/cave.ogg').boundingBox(),
  ];
  await page.mouse.move(from!.x + 8, from!.y + 8);
  await page.mouse.down();
  await page.mouse.move(from!.x + 20, from!.y - 12, { steps: 4 });
  await page.mouse.move(to!.x - 60, to!.y + 6, { steps: 8 });
  await page.mouse.up();
  await expect(slotField(page, 'places/cave.ogg').locator('option:checked')).toHaveText('gull');
  await page.getByRole('button', { name: 'Empty places/shore.ogg' }).click();
  await expect(article(page)).toContainText('Nothing fills places/shore.ogg');
  await expect(page.getByRole('button', { name: 'Build and pack' })).toBeDisabled();
  await page.keyboard.press('Control+z');
  await expect(article(page)).not.toContainText('Nothing fills places/shore.ogg');

  const title = page.getByRole('textbox', { name: 'Title' });
  await title.fill('Storm at "Marrow"');
  await title.press('Enter');
  await expect(
    page.getByRole('img', { name: 'An icon drawn of “Storm at "Marrow"”' }),
  ).toBeVisible();
  await page.getByRole('combobox', { name: 'Edition of the island' }).selectOption('2');
  await expect(page.getByRole('region', { name: 'Texts' })).toContainText('"edition": 2');
  await page.getByLabel('Icon file').setInputFiles({
    name: 'icon.png',
    mimeType: 'image/png',
    buffer: PNG.sync.write(new PNG({ width: 50, height: 50 })),
  });
  await expect(page.getByText('The icon is 50 × 50 pixels.')).toBeVisible();
  const icon = PNG.sync.write(new PNG({ width: 64, height: 64 }));
  await page
    .getByLabel('Icon file')
    .setInputFiles({ name: 'i.png', mimeType: 'image/png', buffer: icon });
  await expect(page.getByRole('region', { name: 'Icon' })).toContainText('As it was given');

  await page.getByRole('button', { name: 'Build and pack' }).click();
  await expect(article(page)).toContainText('is as it would be made now');
  const files = await unzip(
    await saved(page, () => page.getByRole('link', { name: /Download pack/ }).click()),
  );
  expect(JSON.parse(files.get('isle.json')!.toString())).toMatchObject({
    title: 'Storm at "Marrow"',
    edition: 2,
  });
  expect(files.get('icon.png')!.equals(icon)).toBe(true);
  expect([...files.keys()]).toContain('places/cave.ogg');

  // A newer one, and only what is other in it.
  await title.fill('Calm');
  await title.press('Enter');
  await expect(article(page)).toContainText('is older than the project');
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('p');
  await expect(article(page)).toContainText('is as it would be made now');
  await page.getByRole('link', { name: /is as it would be made now/ }).click();
  await expect(page.getByText('It is as it would be made now, to the bit.')).toBeVisible();
  await page.getByRole('combobox', { name: 'What is other than in' }).selectOption({ index: 1 });
  const other = page.getByRole('list', { name: 'What is other' });
  await expect(other.getByRole('listitem')).toHaveText([
    /credits\.txt/,
    /isle\.json/,
    /read_me\.txt/,
  ]);
  const patch = await unzip(
    await saved(page, () => page.getByRole('link', { name: 'Only that, as a patch' }).click()),
  );
  expect([...patch.keys()]).toEqual(['patch.json', 'credits.txt', 'isle.json', 'read_me.txt']);
  // Its files can be opened where they lie.
  const shown = await page.getByRole('link', { name: 'isle.json' }).getAttribute('href');
  const answer = await page.request.get(shown!);
  expect(answer.headers()['content-security-policy']).toContain('sandbox');
  expect(await answer.json()).toMatchObject({ title: 'Calm' });

  await page.getByRole('button', { name: 'Let it go' }).click();
  await expect(page.getByRole('article')).toHaveAccessibleName(/Pack \d+/);
  await page
    .locator('[data-sonner-toast]')
    .filter({ hasText: 'is gone' })
    .getByRole('button', { name: 'Undo' })
    .click();
  await expect(page.getByRole('navigation', { name: 'Packs' }).getByRole('button')).toHaveCount(2);
});

test('several destinations lie in one pack side by side; what is undecided keeps it from being made', async ({
  page,
}) => {
  await openCopy(page, 'packs');
  const making = page.getByRole('region', { name: 'Make a pack' });
  await making.getByRole('checkbox', { name: 'WAV master' }).check();
  await expect(making).toContainText('“thunder” cannot be built yet');
  await expect(making.getByRole('button')).toBeDisabled();
  await making.getByRole('checkbox', { name: 'WAV master' }).uncheck();
  for (const name of ['AR filter', 'Archive']) await making.getByRole('checkbox', { name }).check();
  await making.getByRole('button', { name: 'Build and pack' }).click();
  const pack = page.getByRole('article', { name: /^Pack \d+$/ });
  await expect(pack.getByRole('list', { name: 'Files' })).toContainText('ar-filter/');
  await expect(pack.getByRole('list', { name: 'Files' })).toContainText('archive/signals/');
});

test('calls are made of names, changed, heard with their picks counted, and told where they are wrong', async ({
  page,
}) => {
  const project = await openCopy(page, 'layout/game-mod/calls');
  const calls = page.getByRole('list', { name: 'Calls', exact: true });
  await expect(calls.getByRole('textbox', { name: 'Id of call 1' })).toHaveValue('creatures/gull');
  // A second variant by dragging, with odds.
  const shelf = page.getByRole('region', { name: 'Sounds that go here' });
  const [from, to] = [
    await shelf.getByText('door latch').boundingBox(),
    await calls.getByRole('textbox', { name: 'Id of call 1' }).boundingBox(),
  ];
  await page.mouse.move(from!.x + 8, from!.y + 8);
  await page.mouse.down();
  await page.mouse.move(from!.x - 30, from!.y + 12, { steps: 4 });
  await page.mouse.move(to!.x + 30, to!.y + 12, { steps: 8 });
  await page.mouse.up();
  const variants = page.getByRole('list', { name: 'Variants of creatures/gull' });
  await expect(variants).toContainText('door latch');
  const odds = page.getByRole('textbox', { name: 'Odds of door latch in creatures/gull' });
  await odds.fill('0');
  await odds.press('Enter');
  await expect(page.getByText(/7 calls$/)).toBeVisible();
  for (const [name, value] of [
    ['Level of creatures/gull', '−6'],
    ['Lowest pitch of creatures/gull', '0.5'],
    ['Highest pitch of creatures/gull', '0.5'],
  ] as const) {
    const field = page.getByRole('textbox', { name });
    await field.fill(value);
    await field.press('Enter');
    await expect(field).toHaveValue(value);
  }
  // Nothing is heard before it is built.
  await page.getByRole('button', { name: 'Hear creatures/gull' }).click();
  await expect(page.getByText(/is not built yet/)).toBeVisible();
  const state = () => stateOf(page.request, project);
  const { sounds, cells } = await state();
  const gull = sounds.find(({ name }) => name === 'gull')!;
  const isCell = (cell: (typeof cells)[number]) =>
    cell.soundId === gull.id && cell.briefId === 'game-mod';
  await page.request.post(`/api/projects/${project}/builds`, {
    data: { assignments: [cells.find(isCell)!.id] },
  });
  await expect.poll(async () => (await state()).cells.find(isCell)!.state).toBe('built');
  const hear = page.getByRole('button', { name: 'Hear creatures/gull' });
  await hear.click();
  await expectPlaying(page);
  await expect(strip(page)).toContainText('creatures/gull: gull');
  await expect(strip(page)).toContainText('× 0.5, −6 dB');
  // At half the pitch it lasts twice as long.
  await expect(strip(page)).toContainText('0:06.000');
  await hear.click();
  await expect(variants).toContainText('2 ×');

  const id = page.getByRole('textbox', { name: 'Id of call 5' });
  await id.fill('Fog Horn');
  await id.press('Enter');
  await expect(calls).toContainText('“Fog Horn” has what may not be in an id');
  await page.getByRole('button', { name: 'A call for each' }).click();
  await expect(calls.getByRole('textbox', { name: 'Id of call 2' })).toHaveValue(
    'creatures/gull_2',
  );
  await page.getByRole('button', { name: 'From names' }).click();
  const sheet = page.getByRole('dialog', { name: 'Calls from names' });
  await sheet.getByRole('button', { name: 'One call for each group' }).click();
  await expect(sheet.getByRole('list')).toContainText('weather');
  await expect(sheet.getByRole('list')).toContainText('gallery wind, surf bed');
  await sheet.getByRole('button', { name: 'Take 5 calls' }).click();
  await expect(calls.getByRole('textbox', { name: 'Id of call 1' })).toHaveValue('creatures');
  await page.getByRole('button', { name: 'Follow names' }).click();
  await expect(page.getByText('7 calls, made of names')).toBeVisible();
});

test('an index from elsewhere is mended in view, held against what is here, and taken over', async ({
  page,
}) => {
  await openCopy(page, 'layout/game-mod/mend');
  const text = JSON.stringify(
    {
      calls: [
        { id: 'horn', variants: [{ path: 'signals/foghorn.ogg', odds: 1 }] },
        { id: 'bird', variants: [{ path: 'creatures/gul.ogg', odds: 1 }] },
      ],
    },
    null,
    2,
  )
    .replace('"odds": 1\n', '"odds" 1\n')
    .replace('"bird",', '"bird"');
  await page.getByLabel('Index file').setInputFiles({
    name: 'calls.json',
    mimeType: 'application/json',
    buffer: Buffer.from(text),
  });
  const problems = page.getByRole('list', { name: 'Problems by line' });
  await expect(problems.getByRole('listitem')).toHaveText([
    /line 8, 17\s*a colon is missing — put : there/,
    /line 13, 19\s*a comma is missing behind line 13 — put , there/,
  ]);
  await expect(page.getByRole('region', { name: 'What mending changes' })).toContainText(
    '+           "odds": 1',
  );
  await expect(page.getByRole('region', { name: 'Paths that lead nowhere' })).toContainText(
    'creatures/gul.ogg',
  );
  await expect(page.getByRole('region', { name: 'Sounds that nothing plays' })).toContainText(
    'creatures/gull.ogg',
  );
  await page.getByRole('button', { name: 'Mend it' }).click();
  const field = page.getByRole('textbox', { name: 'Text of the index' });
  await expect(field).toHaveValue(/"odds": 1/);
  await field.fill((await field.inputValue()).replace('gul.ogg', 'gull.ogg'));
  await page.getByRole('button', { name: 'Look at it' }).click();
  await expect(page.getByText('The index is right.')).toBeVisible();
  await page.getByRole('button', { name: 'Take its calls over' }).click();
  await page.getByRole('link', { name: 'Calls', exact: true }).click();
  await expect(page.getByRole('textbox', { name: 'Id of call 2' })).toHaveValue('bird');
});

test('a brief of one’s own gets a layout: slots, a template that says where it is wrong, an icon', async ({
  page,
}) => {
  await openCopy(page, 'briefs/web-single');
  await page.getByRole('main').getByRole('button', { name: 'Copy', exact: true }).click();
  await expect(page).toHaveURL(/briefs\/own-/);
  await page.getByRole('button', { name: 'Edit' }).click();
  const form = page.getByRole('form');
  await form.getByRole('button', { name: 'One more slot' }).click();
  await form.getByRole('textbox', { name: 'Path of slot 1' }).fill('door.ogg');
  await expect(form.getByRole('alert')).toContainText('End it with .mp3.');
  await form.getByRole('textbox', { name: 'Path of slot 1' }).fill('door.mp3');
  await form.getByRole('button', { name: 'One more text' }).click();
  await form.getByRole('combobox', { name: 'What text 1 is' }).selectOption('template');
  await form.getByRole('textbox', { name: 'Template of text 1' }).fill('{\n "a": "{{#sounds}}"\n}');
  await expect(form.getByRole('alert')).toContainText('unclosed section');
  await form.getByRole('textbox', { name: 'Template of text 1' }).fill('{ "title": "{{title}}" }');
  await form.getByRole('checkbox', { name: 'it has one' }).check();
  await expect(form.getByRole('alert')).toBeHidden();
  await form.getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByRole('main')).toContainText('1 slot, of which 1 must be filled');
  await expect(page.getByRole('main')).toContainText('icon.png, PNG, 128 × 128');
});
