import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from '@playwright/test';
import type { ProjectState } from '@/wire';
import { freePort, start } from '../../scripts/setUp.mjs';
import { open, test } from './page';
import { sine } from '../core/signals';
import { addStep, openShape, projectWith, stateOf, steps, wav } from './shaping';

const RATE = 8_000;
const tone = (hz = 440) => sine(RATE, hz, RATE);

test('two windows: what was changed in the other is not overwritten, and each undoes its own', async ({
  page,
  context,
  request,
}) => {
  const { project, ids } = await projectWith(request, 'Windows', {
    'one.wav': wav([tone()], RATE),
    'two.wav': wav([tone(330)], RATE),
  });
  const [one] = ids as [number];
  const seen = (await stateOf(request, project)).revision;
  await openShape(page, project, one);
  await addStep(page, 'gain');
  await expect
    .poll(async () => (await stateOf(request, project)).history.undo?.title)
    .toMatch(/gain/i);

  // Somebody whose window did not know of that: refused, with what is there now.
  const late409 = await request.patch(`/api/sounds/${one}`, {
    data: { recipe: { version: 1, steps: [] }, revision: seen },
  });
  expect(late409.status()).toBe(409);
  const { error, fresh } = (await late409.json()) as {
    error: { code: string; message: string };
    fresh: ProjectState['sounds'][number];
  };
  expect(error).toMatchObject({
    code: 'changed-meanwhile',
    message: expect.stringContaining('one'),
  });
  expect(fresh.recipe.steps).toHaveLength(1);
  const many = await request.post(`/api/projects/${project}/edits`, {
    data: { edits: [{ soundId: one, note: 'x' }], revision: seen },
  });
  expect(many.status()).toBe(409);
  expect(
    ((await many.json()) as { fresh: ProjectState & { changed: { id: number }[] } }).fresh.changed,
  ).toMatchObject([{ id: one }]);

  // The other window hears of it, goes on from there, and undo there means what it shows.
  const other = await context.newPage();
  await openShape(other, project, one);
  await expect(steps(other)).toHaveCount(1);
  await addStep(other, 'reverse');
  await expect(steps(page)).toHaveCount(2);
  const { undo } = (await stateOf(request, project)).history;
  await page.keyboard.press('Control+z');
  await expect(steps(other)).toHaveCount(1);
  const again = await request.post(`/api/projects/${project}/history`, {
    data: { go: 'back', change: undo!.id },
  });
  expect(again.status()).toBe(409);
  await other.close();
});

test('the message about a change takes back that change, and no later one', async ({
  page,
  request,
}) => {
  const { project, ids } = await projectWith(request, 'Messages', {
    'one.wav': wav([tone()], RATE),
    'two.wav': wav([tone(330)], RATE),
  });
  await open(page, `/p/${project}/collect`);
  await page.getByRole('row').nth(1).click();
  await page.keyboard.press('Delete');
  const undo = page.getByRole('button', { name: 'Undo', exact: true });
  await expect(undo).toBeVisible();
  // Meanwhile something else is done elsewhere.
  await request.post(`/api/projects/${project}/edits`, {
    data: { edits: [{ soundId: ids[1], note: 'later' }] },
  });
  await undo.click();
  await expect.poll(async () => (await stateOf(request, project)).sounds.length).toBe(2);
  const { sounds } = await stateOf(request, project);
  expect(sounds.map(({ note }) => note)).toEqual(['', 'later']);
});

test('seven windows of one project load, for they share one connection', async ({
  context,
  request,
}) => {
  const { project } = await projectWith(request, 'Seven', { 'one.wav': wav([tone()], RATE) });
  const streams = new Set<string>();
  context.on('request', (sent) => {
    if (sent.url().endsWith('/events')) streams.add(`${sent.url()} ${sent.timing().startTime}`);
  });
  const pages = [];
  for (let n = 0; n < 7; n++) {
    const page = await context.newPage();
    await open(page, `/p/${project}/collect`);
    pages.push(page);
  }
  await expect(pages[6]!.getByRole('row')).toHaveCount(2);
  expect(streams.size).toBe(1);
  await request.post(`/api/projects/${project}/edits`, {
    data: {
      edits: [{ soundId: (await stateOf(request, project)).sounds[0]!.id, name: 'renamed' }],
    },
  });
  for (const page of pages) await expect(page.getByRole('link', { name: 'renamed' })).toBeVisible();
  // When the one that listens is closed, another does.
  await pages[0]!.close();
  await request.post(`/api/projects/${project}/history`, { data: { go: 'back' } });
  for (const page of pages.slice(1)) {
    await expect(page.getByRole('link', { name: 'one', exact: true })).toBeVisible();
  }
  for (const page of pages.slice(1)) await page.close();
});

test('answers are what they say, HEAD opens nothing, and bodies have an end', async ({
  request,
}) => {
  for (const path of ['/p/1/collect', '/api/projects', '/api/nothing', '/icon.svg']) {
    expect((await request.get(path)).headers()).toMatchObject({
      'x-content-type-options': 'nosniff',
      'cross-origin-resource-policy': 'same-origin',
    });
  }
  for (const path of ['/api/projects/1/events', '/api/projects/1/pack']) {
    const head = await request.head(path, { timeout: 5_000 });
    expect([path, head.status(), (await head.body()).length]).toEqual([path, 200, 0]);
  }
  expect((await request.get('/_next/image?url=%2Ficon.svg&w=64&q=75')).status()).toBe(404);
  const many = await request.post('/api/projects/1/edits', {
    data: { edits: Array.from({ length: 50_001 }, () => ({ soundId: 1, note: '' })) },
  });
  expect(many.status()).toBe(400);
  const long = await request.post('/api/projects', {
    data: Buffer.alloc(33 * 2 ** 20, ' '),
    headers: { 'content-type': 'application/json' },
  });
  expect(long.status()).toBe(413);
});

test('it ends within five seconds with windows open, and the next start works at once', async () => {
  const dataDir = mkdtempSync(join(tmpdir(), 'bijou-end-'));
  const port = await freePort(4_500);
  try {
    const { server, address } = await start({ port, dataDir });
    const { id } = (await (
      await fetch(`${address}/api/projects`, {
        method: 'POST',
        body: JSON.stringify({ name: 'Ending' }),
      })
    ).json()) as { id: number };
    const streams = await Promise.all(
      [1, 2, 3].map(() => fetch(`${address}/api/projects/${id}/events`)),
    );
    const began = Date.now();
    server.kill('SIGINT');
    await once(server, 'exit');
    expect(Date.now() - began).toBeLessThan(5_000);
    for (const { body } of streams) await body?.cancel().catch(() => undefined);
    const again = await start({ port, dataDir });
    const projects = (await (await fetch(`${again.address}/api/projects`)).json()) as {
      name: string;
    }[];
    expect(projects.map(({ name }) => name)).toEqual(['Ending']);
    again.server.kill('SIGTERM');
    await once(again.server, 'exit');
  } finally {
    rmSync(dataDir, { recursive: true, force: true });
  }
});
