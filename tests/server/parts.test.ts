import fc from 'fast-check';
import { packNews, packState, unpackNews, unpackState } from '@/wire/travelling';
import { withNews } from '@/ui/shared/news';
import { bringIn, tone } from './bringing';
import { cleanUp, freshBijou } from './folder';

afterAll(cleanUp);

/** As it arrives: without a sign in front of 0, for one. */
const asSent = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

test('a page that comes in parts knows in the end what is so, whatever happens meanwhile', async () => {
  const { bijou } = await freshBijou(undefined, { parts: { first: 3, next: 2 } });
  const project = bijou.projects.add('Skerry');
  const names = Array.from({ length: 12 }, (_, n) => `${n}.wav`);
  const files = await Promise.all(
    names.map(async (name, n) => [name, await tone(200 + n)] as const),
  );
  await bringIn(bijou, project, Object.fromEntries(files));
  const ids = bijou.sounds.ofProject(project).map(({ id }) => id);
  bijou.packs.send(project, { sounds: ids, briefs: ['wav-master', 'archive'] }, {});

  const changes = {
    rename: (soundId: number, n: number) =>
      bijou.edits.edit(project, [{ soundId, name: `other ${n}` }]),
    takeOut: (soundId: number) => bijou.edits.edit(project, [{ soundId, removed: true }]),
    bringBack: (soundId: number) => bijou.edits.edit(project, [{ soundId, removed: false }]),
    send(soundId: number) {
      // What was taken out cannot be sent.
      const sounds = [soundId].filter((id) => bijou.sounds.byId(id).removedAt === null);
      if (sounds.length > 0) bijou.packs.send(project, { sounds, briefs: ['web-page'] }, {});
    },
  };
  const change = fc.record({
    what: fc.constantFrom(...(Object.keys(changes) as (keyof typeof changes)[])),
    at: fc.nat(ids.length - 1),
  });
  let n = 0;
  fc.assert(
    fc.property(fc.array(fc.array(change, { maxLength: 3 }), { maxLength: 8 }), (between) => {
      for (const soundId of ids) changes.bringBack(soundId);
      let page = unpackState(packState(bijou.firstPart(project)));
      expect(page.sounds).toHaveLength(3);
      expect(page.rest).toEqual({ after: page.sounds.at(-1)!.id, count: ids.length - 3 });
      for (let step = 0; page.rest || step < between.length; step++) {
        for (const { what, at } of between[step] ?? []) changes[what](ids[at]!, n++);
        const { revision, rest } = page;
        const news = bijou.projectNews(project, { revision, after: rest?.after });
        page = withNews(page, unpackNews(asSent(packNews(news))));
      }
      const { sounds, cells, rest } = bijou.projectState(project);
      expect(page).toMatchObject(asSent({ sounds, cells, rest }));
    }),
    { numRuns: 40, seed: 5 },
  );
});

test('a small project comes whole, and destinations are told to those who know others', async () => {
  const { bijou } = await freshBijou();
  const project = bijou.projects.add('Skerry');
  await bringIn(bijou, project, { 'a.wav': await tone(100) });
  const { revision, briefsVersion, ...page } = bijou.firstPart(project);
  expect(page).toMatchObject({ rest: null, sounds: [{ name: 'a' }] });
  const briefs = (known?: string) =>
    bijou.projectNews(project, { revision, briefsVersion: known }).briefs;
  expect([briefs(), briefs(briefsVersion)]).toEqual([null, null]);
  expect(briefs('older')).toEqual(page.briefs);
});
