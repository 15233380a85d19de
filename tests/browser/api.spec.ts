import { expect, type APIRequestContext } from '@playwright/test';
import type { PackLine, Project, ProjectState } from '@/wire';
import { test } from './page';
import { send } from './sending';

/** A tenth of a second of 16-bit mono WAV, different for each `seed`. */
function tinyWav(seed: number): Buffer {
  const frames = 4_410;
  const file = Buffer.alloc(44 + frames * 2);
  file.write('RIFF', 0);
  file.writeUInt32LE(36 + frames * 2, 4);
  file.write('WAVEfmt ', 8);
  [16, 0x10001, 44_100, 88_200, 0x100002].forEach((value, i) =>
    file.writeUInt32LE(value, 16 + i * 4),
  );
  file.write('data', 36);
  file.writeUInt32LE(frames * 2, 40);
  for (let i = 0; i < frames; i++)
    file.writeInt16LE(Math.round(9_000 * Math.sin(i / (5 + seed))), 44 + i * 2);
  return file;
}

async function project(request: APIRequestContext, name: string): Promise<number> {
  const made = await request.post('/api/projects', { data: { name } });
  return ((await made.json()) as Project).id;
}

async function state(request: APIRequestContext, id: number): Promise<ProjectState> {
  return (await (await request.get(`/api/projects/${id}`)).json()) as ProjectState;
}

async function lines(request: APIRequestContext, id: number): Promise<PackLine[]> {
  return (await (await request.get(`/api/projects/${id}/lines`)).json()) as PackLine[];
}

async function upload(request: APIRequestContext, id: number, name: string, data: Buffer) {
  const [sent] = await send(request, id, { [name]: data });
  return sent!;
}

test('the whole way by HTTP: bring in, shape, assign, build, fetch', async ({ request }) => {
  const id = await project(request, 'By script');
  const { body } = await upload(request, id, 'tick.wav', tinyWav(1));
  await expect.poll(async () => (await state(request, id)).sounds[0]?.state).toBe('ready');
  const sound = body.soundId!;
  const recipe = {
    version: 1,
    steps: [{ kind: 'keep', on: true, params: { startFrame: 0, endFrame: 2_205 } }],
  };
  expect(
    (await request.patch(`/api/sounds/${sound}`, { data: { recipe, name: 'tock' } })).status(),
  ).toBe(200);
  expect(
    (await request.put(`/api/sounds/${sound}/assignments/wav-master`, { data: {} })).status(),
  ).toBe(200);
  expect((await request.post(`/api/projects/${id}/builds`, { data: {} })).status()).toBe(200);
  const output = async () => (await lines(request, id))[0]!.outputs[0];
  await expect.poll(async () => (await output())?.state).toBe('done');
  const done = (await output())!;
  expect(done).toMatchObject({ name: 'tock.wav', verification: { ok: true, framesFound: 2_400 } });
  const file = await request.get(`/api/outputs/${done.id}/file`);
  expect(file.headers()).toMatchObject({
    'content-type': 'audio/wav',
    'content-disposition': "inline; filename*=UTF-8''tock.wav",
  });
  const whole = await file.body();
  expect(whole.length).toBe(44 + 2_400 * 3);
  const part = async (range: string, more: Record<string, string> = {}) => {
    const address = `/api/outputs/${done.id}/file?download`;
    const answer = await request.get(address, { headers: { range, ...more } });
    return { status: answer.status(), headers: answer.headers(), body: await answer.body() };
  };
  expect(await part('bytes=10-19')).toMatchObject({
    status: 206,
    headers: {
      'content-range': 'bytes 10-19/7244',
      'content-disposition': "attachment; filename*=UTF-8''tock.wav",
    },
    body: whole.subarray(10, 20),
  });
  expect((await part('bytes=-4')).body).toEqual(whole.subarray(-4));
  expect((await part('bytes=7240-')).body).toEqual(whole.subarray(7_240));
  expect(await part('bytes=9000-')).toMatchObject({
    status: 416,
    headers: { 'content-range': 'bytes */7244' },
  });
  // What cannot be understood, or is of another file, is answered with all of it.
  expect((await part('lines=1-2')).status).toBe(200);
  expect((await part('bytes=0-3', { 'if-range': '"other"' })).status).toBe(200);
  const tag = file.headers()['etag']!;
  expect((await part('bytes=0-3', { 'if-range': tag })).status).toBe(206);
  expect((await part('', { 'if-none-match': tag })).status).toBe(304);
  const pcm = await request.get(`/api/outputs/${done.id}/pcm?start=2390&frames=100`);
  expect(pcm.headers()).toMatchObject({ 'x-rate-hz': '48000', 'x-channels': '1' });
  expect((await pcm.body()).length).toBe(10 * 4);
  expect((await request.delete(`/api/sounds/${sound}/assignments/wav-master`)).status()).toBe(200);
  expect(await lines(request, id)).toEqual([]);
  expect((await state(request, id)).cells).toEqual([]);
});

test('names from outside are only names', async ({ request }) => {
  const id = await project(request, 'Names');
  const names = ['a"b\'c<d>.wav', `${'n'.repeat(300)}.wav`, '🐚.wav', 'con.wav'];
  // What would climb out of its folder is only named, and its bytes are not asked for.
  expect(await upload(request, id, '../../../etc/cron.d/x.wav', tinyWav(9))).toMatchObject({
    status: null,
    body: { state: 'left-out' },
  });
  for (const [seed, name] of names.entries()) {
    expect((await upload(request, id, name, tinyWav(10 + seed))).status).toBe(200);
  }
  await expect
    .poll(async () => (await state(request, id)).sounds.map(({ state: s }) => s))
    .toEqual(names.map(() => 'ready'));
  const { sounds } = await state(request, id);
  expect(sounds.map(({ name }) => name)).toEqual(['a"b\'c<d>', 'n'.repeat(230), '🐚', 'con']);
  for (const { id: sound } of sounds) {
    await request.put(`/api/sounds/${sound}/assignments/wav-master`, { data: {} });
  }
  await request.post(`/api/projects/${id}/builds`, { data: {} });
  const outputs = async () => (await lines(request, id)).flatMap((line) => line.outputs);
  await expect
    .poll(async () => (await outputs()).map(({ state: s }) => s))
    .toEqual(names.map(() => 'done'));
  expect((await outputs()).map(({ name }) => name)).toEqual([
    "a-b'c-d-.wav",
    `${'n'.repeat(230)}.wav`,
    '🐚.wav',
    'sound con.wav',
  ]);
});

test('bad requests are answered with a sentence and a hint, never with a crash', async ({
  request,
}) => {
  const id = await project(request, 'Bad');
  const { body } = await upload(request, id, 'tick.wav', tinyWav(40));
  const sound = body.soundId!;
  await expect.poll(async () => (await state(request, id)).sounds[0]?.state).toBe('ready');
  const none = { version: 1, steps: [] };
  const joinOf = (...ids: number[]) => ({
    parts: ids.map((soundId) => ({ soundId, gapSeconds: 0 })),
    overlap: 'mix',
    rateHz: null,
    channelCount: null,
  });
  const cases: [
    method: 'get' | 'post' | 'patch' | 'put',
    path: string,
    data: unknown,
    status: number,
    code: string,
  ][] = [
    ['post', 'projects', { name: '' }, 400, 'bad-setting'],
    ['post', 'projects', { name: 'x', extra: 1 }, 400, 'bad-setting'],
    ['post', 'projects', 'not json', 400, 'bad-setting'],
    ['get', 'projects/999', undefined, 404, 'not-found'],
    ['get', 'projects/one', undefined, 400, 'bad-setting'],
    ['patch', 'sounds/99999', { name: 'x' }, 404, 'not-found'],
    ['patch', `sounds/${sound}`, { recipe: { version: 2, steps: [] } }, 400, 'bad-setting'],
    [
      'patch',
      `sounds/${sound}`,
      {
        recipe: {
          version: 1,
          steps: [{ kind: 'keep', on: true, params: { startFrame: 5, endFrame: 5 } }],
        },
      },
      400,
      'bad-span',
    ],
    [
      'patch',
      `sounds/${sound}`,
      {
        recipe: {
          version: 1,
          steps: [{ kind: 'keep', on: true, params: { startFrame: 0, endFrame: 1e12 } }],
        },
      },
      400,
      'bad-span',
    ],
    ['put', `sounds/${sound}/assignments/nobody`, {}, 404, 'not-found'],
    ['put', `sounds/${sound}/assignments/ar-filter`, { mono: 'both' }, 400, 'bad-setting'],
    ['post', `projects/${id}/builds`, {}, 409, 'not-allowed'],
    ['get', `projects/${id}/pack`, undefined, 404, 'not-found'],
    ['get', 'outputs/99999/file', undefined, 404, 'not-found'],
    ['get', `sounds/${sound}/peaks?start=0&end=10&columns=0`, undefined, 400, 'bad-span'],
    ['get', `sounds/${sound}/peaks?start=9&end=2&columns=5`, undefined, 400, 'bad-span'],
    ['get', `sounds/${sound}/pcm?start=0&frames=99999999`, undefined, 400, 'bad-span'],
    ['post', `sounds/${sound}/shaped/nonsense`, {}, 404, 'not-found'],
    ['post', `sounds/${sound}/shaped/toString`, {}, 404, 'not-found'],
    ['post', `sounds/${sound}/shaped/levels`, { isThorough: true }, 400, 'bad-setting'],
    ['post', `sounds/${sound}/shaped/pcm`, { recipe: [], start: 0, frames: 9 }, 400, 'bad-setting'],
    ['post', `sounds/${sound}/shaped/clicks`, { recipe: none }, 400, 'bad-setting'],
    [
      'post',
      `sounds/${sound}/shaped/spectrogram`,
      { recipe: none, startFrame: 0, endFrame: 9, columns: 9, rows: 9e9 },
      400,
      'bad-span',
    ],
    ['post', `sounds/${sound}/history`, { to: 77_777 }, 404, 'not-found'],
    ['post', `sounds/${sound}/split`, {}, 400, 'not-legal'],
    ['get', `sounds/${sound}/sheet`, undefined, 409, 'not-allowed'],
    ['put', `sounds/${sound}/join`, joinOf(sound), 409, 'not-allowed'],
    ['post', `projects/${id}/joins`, { name: 'none', join: joinOf() }, 409, 'not-allowed'],
    ['post', `projects/${id}/joins`, { name: 'x', join: { parts: 'all' } }, 400, 'bad-setting'],
    ['post', 'recipes', { name: 'none', recipe: none, rateHz: 48_000 }, 400, 'bad-setting'],
    [
      'post',
      `projects/${id}/edits`,
      { edits: [{ soundId: sound, tempo: { bpm: 0, beatsPerBar: 4 } }] },
      400,
      'bad-setting',
    ],
  ];
  for (const [method, path, data, status, code] of cases) {
    const answer = await request[method](`/api/${path}`, data === undefined ? {} : { data });
    expect(answer.status(), path).toBe(status);
    expect(await answer.json(), path).toMatchObject({
      error: { code, message: expect.stringMatching(/\.$/), hint: expect.stringMatching(/.+/) },
    });
  }
  const empty = await upload(request, id, 'empty.wav', Buffer.alloc(0));
  expect(empty).toMatchObject({ status: null, body: { state: 'left-out' } });
});

test('listeners are told when something changes', async ({ page, request }) => {
  const id = await project(request, 'Events');
  await page.goto('/');
  const heard = page.evaluate(
    (projectId) =>
      new Promise<string>((resolve) => {
        const events = new EventSource(`/api/projects/${projectId}/events`);
        events.onmessage = ({ data }) => resolve(String(data));
        events.onopen = () => document.body.setAttribute('data-listening', 'yes');
      }),
    id,
  );
  await page.waitForSelector('[data-listening]');
  await upload(request, id, 'tick.wav', tinyWav(77));
  expect(JSON.parse(await heard)).toMatchObject({ kind: 'changed' });
});

test('an upload that is cut off midway leaves nothing, and the server goes on', async ({
  page,
  request,
}) => {
  const id = await project(request, 'Cut off');
  await page.goto('/');
  await page.evaluate(async (projectId) => {
    const abort = new AbortController();
    const announced = await fetch(`/api/projects/${projectId}/intakes`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ files: [{ path: 'half.wav', bytes: 300_000_000 }] }),
    });
    const [{ id: arrival }] = (await announced.json()) as [{ id: number }];
    const sending = fetch(`/api/arrivals/${arrival}`, {
      method: 'PUT',
      body: new Blob([new Uint8Array(300_000_000)]),
      signal: abort.signal,
    }).catch(() => null);
    setTimeout(() => abort.abort(), 60);
    await sending;
  }, id);
  expect((await upload(request, id, 'whole.wav', tinyWav(5))).status).toBe(200);
  await expect
    .poll(async () => (await state(request, id)).sounds.map(({ name, state: s }) => `${name} ${s}`))
    .toEqual(['whole ready']);
});

test('a real demo file can be read from the page as it was written', async ({ request }) => {
  const { sounds } = await state(request, 1);
  const waltz = sounds.find(({ name }) => name.includes('waltz'))!;
  const answer = await request.get(`/api/sounds/${waltz.id}/pcm?start=100000&frames=4`);
  expect((await answer.body()).length).toBe(4 * 2 * 4);
});
