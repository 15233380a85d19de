/** Pictures of layouts, calls and packs. */

/** Makes a pack and waits until it is there. Answers its number. */
export async function madePack(page, briefs) {
  const answer = await page.request.post('/api/projects/1/packs', { data: { briefs } });
  const { id, error } = await answer.json();
  if (error) throw new Error(error.message);
  for (let state = ''; state !== 'done';) {
    await page.waitForTimeout(500);
    ({ state } = await (await page.request.get(`/api/packs/${id}`)).json());
  }
  return id;
}

/** Calls as somebody has put them together. */
async function someCalls(page) {
  const { sounds } = await (await page.request.get('/api/projects/1')).json();
  const variants = (...names) =>
    names.map((name, i) => ({
      soundId: sounds.find((one) => one.name === name).id,
      odds: i === 0 ? 3 : 1,
    }));
  const call = (id, levelDb, pitch, read, ...names) => ({
    id,
    levelDb,
    pitch,
    read,
    variants: variants(...names),
  });
  return {
    calls: [
      call('gull/near', -3, [0.9, 1.1], 'whole', 'gull', 'door latch'),
      call('fog', 0, [1, 1], 'whole', 'foghorn'),
      call('sea', -6, [1, 1], 'piecewise', 'surf bed', 'gallery wind'),
      call('Lamp room', 0, [0.5, 2], 'whole', 'lamp motor'),
      call('waltz', 0, [1, 1], 'piecewise', "keeper's waltz"),
    ],
  };
}

export const packViews = [
  {
    name: 'pack-layout',
    path: '/p/1/pack/layout/game-mod',
    async act(page) {
      await madePack(page, ['game-mod']);
      await page.reload();
      await page.waitForTimeout(1_500);
    },
  },
  {
    name: 'pack-calls',
    path: '/p/1/pack/layout/game-mod/calls',
    async act(page) {
      await madePack(page, ['game-mod']);
      await page.request.put('/api/projects/1/layouts/game-mod/calls', {
        data: await someCalls(page),
      });
      await page.reload();
      await page.waitForTimeout(1_000);
      for (let i = 0; i < 7; i++) {
        await page.getByRole('button', { name: 'Hear gull/near' }).click();
        await page.waitForTimeout(200);
      }
    },
  },
  {
    name: 'pack-history',
    path: '/p/1/pack/packs',
    colorScheme: 'dark',
    async act(page) {
      const calls = '/api/projects/1/layouts/game-mod/calls';
      await page.request.put(calls, { data: { calls: null } });
      const first = await madePack(page, ['game-mod']);
      await page.request.patch('/api/projects/1/layouts/game-mod', {
        data: { title: 'A storm over the skerry' },
      });
      await madePack(page, ['game-mod']);
      await madePack(page, ['web-page', 'archive']);
      await page.goto('/p/1/pack/packs/' + (first + 1));
      await page.getByRole('combobox').selectOption(String(first));
      await page.waitForTimeout(1_000);
    },
  },
];
