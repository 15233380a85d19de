import { struckRounds } from '../../tools/kill/packs';
import { cleanUp, temporaryFolder } from '../server/folder';

afterAll(cleanUp);

test('struck at random moments, pack and build lose nothing of anybody, and the next call puts all right', async () => {
  expect(await struckRounds(await temporaryFolder(), 2, 3)).toEqual([]);
}, 120_000);
