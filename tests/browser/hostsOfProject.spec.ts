import { expect, type APIRequestContext, type Page } from '@playwright/test';
import type { PackSummary, ProjectState } from '@/wire';
import { checked, expectHeard, verdict } from './hosting';
import { open, test } from './page';
import { stateOf } from './shaping';

const STEREO = {
  ...{ id: 'stereo', version: 1, title: 'Stereo filter', purpose: 'A filter.', notes: [] },
  host: 'filter',
  files: [
    { id: 'm4a', writer: 'm4a', settings: { kbps: 96 }, channels: [2], sampleRatesHz: [44_100] },
  ],
};

/** The demo project once more, of which the packs are made that a host is to take. */
async function copyWith(
  request: APIRequestContext,
  ...briefs: string[]
): Promise<{ id: number; state: ProjectState }> {
  const answer = await request.post('/api/projects/1/copy');
  const { id } = (await answer.json()) as { id: number };
  for (const brief of briefs) await packed(request, id, brief);
  return { id, state: await stateOf(request, id) };
}

/** Makes a pack and waits for it. Answers its number. */
async function packed(
  request: APIRequestContext,
  id: number,
  ...briefs: string[]
): Promise<number> {
  const answer = await request.post(`/api/projects/${id}/packs`, { data: { briefs } });
  const pack = (await answer.json()) as PackSummary;
  const state = async () =>
    ((await (await request.get(`/api/packs/${pack.id}`)).json()) as PackSummary).state;
  await expect.poll(state).toBe('done');
  return pack.id;
}

const packNow = (page: Page) => Number(new URL(page.url()).searchParams.get('pack'));

test('a file that is built again under its name goes into the running scene; what is set goes into the pack', async ({
  page,
  request,
}) => {
  const { id, state } = await copyWith(request, 'ar-filter');
  await open(page, `/p/${id}/rehearse/filter`);
  await expect(verdict(page)).toHaveText('Accepted: 3 sounds, and every rule is met.');
  const file = 'gallery wind.m4a';
  await page.getByLabel(`Something else that does something to ${file}`).selectOption('tap');
  await page.getByRole('button', { name: `${file} repeats` }).click();
  await page.getByLabel('Hint on the screen').fill('Listen to the wind');
  await page.getByRole('button', { name: 'Keep it for the pack' }).click();
  await expect(page.getByText('Kept for the next pack.')).toBeVisible();
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('t');
  await expectHeard(page, true);

  const wind = state.sounds.find(({ name }) => name === 'gallery wind')!;
  const steps = [...wind.recipe.steps, { kind: 'gain', on: true, params: { gainDb: -6 } }];
  await request.patch(`/api/sounds/${wind.id}`, { data: { recipe: { ...wind.recipe, steps } } });
  await page.getByRole('button', { name: 'Pack again and reload' }).click();
  await expect(page.getByRole('list', { name: 'What changed' })).toContainText(
    `Built again: ${file}.`,
  );
  // It went on all the while, and repeats as it was set.
  await expectHeard(page, true);
  await expect(page.getByLabel(`What a tap does to ${file}`)).toHaveValue('startOrStop');
  // The address follows what is loaded.
  await page.waitForURL(/pack=\d+/);
  const list = await request.get(`/api/packs/${packNow(page)}/files/settings.txt`);
  expect(await list.text()).toContain('text: Listen to the wind');
  expect(await list.text()).toMatch(
    /gallery wind\.m4a\n.*\n {2}a tap: starts or stops it\n.*\n {2}loop: on/,
  );
});

test('what a host refuses is mended with one press, packed again and loaded; the matrix says so', async ({
  page,
  request,
}) => {
  const { id, state } = await copyWith(request);
  const added = await request.post(`/api/projects/${id}/briefs/file`, {
    data: JSON.stringify(STEREO),
  });
  const own = ((await added.json()) as { brief: { id: string } }).brief.id;
  const sounds = state.sounds.slice(0, 2).map((sound) => sound.id);
  await request.post(`/api/projects/${id}/assignments`, { data: { sounds, briefs: [own] } });
  const number = await packed(request, id, own);
  await open(page, `/p/${id}/rehearse/filter?pack=${number}`);
  await expect(verdict(page)).toContainText('Refused for 2 reasons');
  await expect(checked(page)).toContainText('channels: stereo · asked: mono');
  const cell = checked(page).getByRole('link', { name: 'To its cell' }).first();
  await expect(cell).toHaveAttribute('href', new RegExp(`/pack\\?cell=\\d+\\.${own}$`));
  await checked(page)
    .getByRole('button', { name: 'Send these sounds to the brief that is made for this host' })
    .first()
    .click();
  await expect(verdict(page)).toContainText('Accepted');
  expect(packNow(page)).toBeGreaterThan(number);

  await page.goto(`/p/${id}/pack`);
  const head = page.getByRole('columnheader', { name: 'AR filter' });
  await expect(head).toContainText('accepted by its host');
  const stereo = page.getByRole('columnheader', { name: 'Stereo filter' });
  await expect(stereo).toContainText('its host refuses 2 things');
  await expect(
    page.getByRole('gridcell', { name: /at AR filter: built, accepted by its host/ }).first(),
  ).toBeVisible();
  await expect(
    page.getByRole('gridcell', { name: /at Stereo filter: built, refused by its host/ }).first(),
  ).toBeVisible();
});

test('an older edition is set with one press, and the island says what changed', async ({
  page,
  request,
}) => {
  const { id } = await copyWith(request);
  await request.patch(`/api/projects/${id}/layouts/game-mod`, { data: { fields: { edition: 2 } } });
  await packed(request, id, 'game-mod');
  await open(page, `/p/${id}/rehearse/mod`);
  await expect(verdict(page)).toContainText('look at 1 thing below');
  await checked(page)
    .getByRole('button', { name: /Set the edition/ })
    .click();
  await expect(page.getByRole('list', { name: 'What changed' })).toContainText(
    'It is for edition 3 now.',
  );
  await expect(verdict(page)).toContainText('every rule is met');
});

test('an address of a pack that is gone, and a project without packs, say what to do', async ({
  page,
  request,
}) => {
  const { id } = await copyWith(request);
  await open(page, `/p/${id}/rehearse/mod?pack=99999`);
  await expect(page.getByRole('main').getByRole('alert')).toContainText('Choose another one');
  await open(page, `/p/${id}/rehearse/mod`);
  await expect(page.getByText('No pack has been made for it yet.')).toBeVisible();
  await page.getByRole('button', { name: 'Make the pack' }).click();
  await expect(verdict(page)).toContainText('Accepted: 8 sounds');
  // Of several destinations in one pack each host takes its own folder.
  const several = await packed(request, id, 'game-mod', 'ar-filter');
  await open(page, `/p/${id}/pack/packs/${several}`);
  await page.getByRole('link', { name: 'To the filter stage' }).click();
  await expect(page).toHaveURL(new RegExp(`rehearse/filter\\?pack=${several}&brief=ar-filter$`));
  await expect(verdict(page)).toContainText('Accepted: 3 sounds');
});
