import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { encode } from '../core/files';
import { noise } from '../core/signals';
import { cleanUp, temporaryFolder } from '../server/folder';
import { put } from './files';
import { bijou, words } from './run';

afterAll(cleanUp);

const rateHz = 22_050;

async function folder(files: Record<string, Uint8Array> = {}): Promise<string> {
  const song = await encode([noise(rateHz * 8, 3)], rateHz, 'wav', { bits: 16 });
  return put(await temporaryFolder(), { 'song.wav': song, ...files });
}

const call = (where: string, line: string) => bijou(where, ...words(line));

describe('loop make', () => {
  test.each([
    ['--crossfade 0.2 --wrap-tail 1', /exclude each other/],
    ['--crossfade 0.2,round', /no curve "round"/],
    ['--crossfade fast', /"fast" is not a time/],
    ['--wrap-tail 1,loud', /needs a number/],
    ['--wrap-tail 1,40', /cannot be 40/],
    ['--listening-copy 0', /--listening-copy cannot be "0"/],
    ['--listening-copy 3,1,1,1', /cannot be/],
    ['--listening-copy many', /cannot be "many"/],
    ['--channels wide', /--channels cannot be "wide"/],
    ['--start -1', /not a time/],
  ])('%s is refused before anything is read', async (options, message) => {
    const where = await folder();
    const { status, err } = await call(where, `loop make song.wav --out out ${options}`);
    expect([status, err]).toEqual([2, expect.stringMatching(message)]);
  });

  test.each([
    ['--start 5 --end 2', /ends before it begins/],
    ['--start 1 --end 22060f', /10 frames is too short/],
    ['--start 1 --end 99', /outside the sound/],
    ['--start 1 --end 2 --wrap-tail 3', /longer than the loop/],
    ['--start 1 --wrap-tail 3', /Nothing lies behind the loop/],
    ['--start 1 --intro-from 2', /begin behind the start/],
    ['--crossfade 6', /longer than half of the sound/],
  ])('%s is refused for the file, with the reason', async (options, message) => {
    const where = await folder();
    const { status, err } = await call(where, `loop make song.wav --out out ${options}`);
    expect([status, err]).toEqual([1, expect.stringMatching(message)]);
    expect(await readdir(join(where, 'out'))).toEqual([]);
  });

  test('silence loops as well, and one bad file hides no other', async () => {
    const silence = await encode([new Float32Array(rateHz)], rateHz, 'wav', { bits: 16 });
    const where = await folder({ 'silence.wav': silence, 'bad.wav': new Uint8Array(50) });
    const ran = await call(where, 'loop make silence.wav bad.wav song.wav --out out --json');
    expect(ran.status).toBe(1);
    expect(JSON.parse(ran.out)).toMatchObject([
      { seam: { after: { score: 100 } } },
      { error: expect.anything() as object },
      { file: 'song.wav' },
    ]);
    const again = await call(where, 'loop make silence.wav --out out');
    expect([again.status, again.err]).toEqual([1, expect.stringMatching(/already there/)]);
  });
});
