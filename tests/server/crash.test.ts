import { rmSync } from 'node:fs';
import { killedRounds } from '../../tools/kill/rounds';
import { faultsOf } from '../../tools/kill/verify';
import { cleanUp, freshBijou, storedFiles, temporaryFolder } from './folder';

afterAll(cleanUp);

test('killed at random moments of bringing in, joining, building and cleaning up, nothing is lost', async () => {
  const folder = await temporaryFolder();
  expect(await killedRounds(folder, 2, 7)).toEqual([]);
  expect((await storedFiles(folder)).every((name) => /^[0-9a-f]{64}(\.|$)/.test(name))).toBe(true);
  // And what is lost would be seen.
  const { bijou } = await freshBijou(folder);
  const sound = bijou.sounds
    .ofProject(1)
    .find(({ state, join: joined }) => state === 'ready' && !joined)!;
  rmSync(bijou.store.path(sound.sourceSha256));
  expect(await faultsOf(bijou, folder)).toContain(`${sound.name} has lost its file`);
});
