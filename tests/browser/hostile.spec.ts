import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { get } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, type APIRequestContext, type APIResponse } from '@playwright/test';
import type { Project } from '@/wire';
import { freePort, start } from '../../scripts/setUp.mjs';
import { test } from './page';

/** Requests that are made to do harm are answered in words, and hold up nobody. */

interface Refusal {
  error: { code: string; message: string; hint: string; field?: string };
}

const refusal = async (response: APIResponse) => ({
  status: response.status(),
  ...((await response.json()) as Refusal).error,
});

async function project(request: APIRequestContext): Promise<number> {
  const made = await request.post('/api/projects', { data: { name: 'Hostile' } });
  return ((await made.json()) as Project).id;
}

const json = { 'Content-Type': 'application/json' };

test('sixteen megabytes of brackets are refused wherever they are sent', async ({ request }) => {
  const id = await project(request);
  // As bytes: a text would be read by the sender first.
  const data = Buffer.alloc(16_000_000, '[');
  const at = `/api/projects/${id}`;
  for (const [method, path] of [
    ['POST', '/api/projects'],
    ['POST', `${at}/edits`],
    ['PUT', `${at}/layouts/game-mod/calls`],
    ['POST', `${at}/layouts/game-mod/index`],
    ['POST', `${at}/briefs/file`],
  ] as const) {
    const found = await refusal(await request.fetch(path, { method, data, headers: json }));
    expect({ path, status: found.status, code: found.code }).toEqual({
      ...{ path, status: 413, code: 'too-large' },
    });
  }
});

test('what is nested deep, and long bodies that are wrong, are refused at their field', async ({
  request,
}) => {
  const id = await project(request);
  const send = async (path: string, data: string) =>
    refusal(
      await request.fetch(`/api/projects/${id}${path}`, { method: 'POST', data, headers: json }),
    );
  const deep = `{"edits":${'['.repeat(300_000)}${']'.repeat(300_000)}}`;
  expect(await send('/edits', deep)).toMatchObject({
    status: 400,
    message: expect.stringMatching(/nested too deep/),
  });
  // Above a megabyte it is read in a thread.
  const long = {
    edits: Array.from({ length: 30_000 }, (_, n) => ({ soundId: n, nome: 'long enough a name' })),
  };
  expect(await send('/edits', JSON.stringify(long))).toMatchObject({
    ...{ status: 400, code: 'bad-setting' },
    message: expect.stringMatching(/nome/),
  });
  expect(await send('/edits', '{"edits":[{"soundId":1,"constructor":1}]}')).toMatchObject({
    message: expect.stringMatching(/constructor/),
  });
});

test('twenty thousand calls go through a thread and are kept', async ({ request }) => {
  const id = await project(request);
  const calls = Array.from({ length: 20_000 }, (_, n) => ({
    ...{ id: `call_${n}`, variants: [], levelDb: 0, pitch: [1, 1], read: 'whole' },
  }));
  const path = `/api/projects/${id}/layouts/game-mod/calls`;
  expect((await request.put(path, { data: { calls } })).status()).toBe(200);
});

test('destinations that there are not, or are named twice, are refused', async ({ request }) => {
  const id = await project(request);
  const outline = await request.get(`/api/projects/${id}/packs/outline?brief=anything`);
  expect(await refusal(outline)).toMatchObject({
    status: 404,
    message: expect.stringMatching(/no brief "anything"/),
  });
  const twice = await request.post(`/api/projects/${id}/packs`, {
    data: { briefs: ['game-mod', 'game-mod', 'game-mod'] },
  });
  expect(await refusal(twice)).toMatchObject({
    status: 400,
    message: expect.stringMatching(/twice/),
  });
  const unknown = await request.post(`/api/projects/${id}/packs`, { data: { briefs: ['x'] } });
  expect(await refusal(unknown)).toMatchObject({ status: 404 });
});

/** As it is typed: clients would write such an address in another way. */
function asTyped(
  base: string,
  path: string,
): Promise<{ status: number; type: string; text: string }> {
  const { hostname, port } = new URL(base);
  return new Promise((done, failed) =>
    get({ hostname, port, path }, (response) => {
      let text = '';
      response.setEncoding('utf8').on('data', (piece: string) => (text += piece));
      response.on('end', () =>
        done({
          status: response.statusCode ?? 0,
          type: response.headers['content-type'] ?? '',
          text,
        }),
      );
    }).on('error', failed),
  );
}

test('addresses that cannot be read are answered like all others', async ({ baseURL }) => {
  for (const path of [
    '/api/projects/%ff',
    '/api/packs/1/files/%ff',
    '/api/projects/1/layouts/%f0%28/texts',
  ]) {
    const { status, text } = await asTyped(baseURL!, path);
    expect(status).toBe(400);
    expect((JSON.parse(text) as Refusal).error.message).toMatch(/address cannot be read/);
  }
  const page = await asTyped(baseURL!, '/p/%ff/collect');
  expect(page).toMatchObject({ status: 404, type: expect.stringMatching(/html/) });
});

test('a second Bijou over the same data says so, to programs and to people', async ({
  page,
  request,
}) => {
  const dataDir = mkdtempSync(join(tmpdir(), 'bijou-twice-'));
  const first = await start({ port: await freePort(4_460), dataDir });
  await expect(start({ port: await freePort(4_480), dataDir })).rejects.toThrow(
    /Another Bijou is using the data folder/,
  );
  const port = await freePort(4_500);
  const address = `http://127.0.0.1:${port}`;
  const next = join('node_modules', 'next', 'dist', 'bin', 'next');
  const second = spawn(process.execPath, [next, 'start', '-H', '127.0.0.1', '-p', String(port)], {
    env: { ...process.env, BIJOU_DATA: dataDir, NODE_ENV: 'production' },
    stdio: 'ignore',
  });
  try {
    const status = () =>
      request.get(`${address}/api/projects`).then(
        (response) => response.status(),
        () => 0,
      );
    await expect.poll(status).toBe(409);
    await page.goto(`${address}/p/1/collect`);
    await expect(page.getByText('Another Bijou is using the data folder')).toBeVisible();
  } finally {
    second.kill('SIGKILL');
    const ended = once(first.server, 'exit');
    first.server.kill('SIGTERM');
    await ended;
    rmSync(dataDir, { recursive: true, force: true });
  }
});
