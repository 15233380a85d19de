import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { parseBuffer } from 'music-metadata';
import wavefile from 'wavefile';
import { memorySource } from '@/core/bytes/source';
import { probe } from '@/core/measure/probe';
import { encode } from '../core/files';
import { noise, sine } from '../core/signals';
import { cleanUp, temporaryFolder } from '../server/folder';
import { put } from './files';
import { bijou, words, type Ran } from './run';

afterAll(cleanUp);

const rateHz = 22_050;
const SECONDS = 8;
const left = noise(rateHz * SECONDS, 3, 0.4);
const right = noise(rateHz * SECONDS, 4, 0.4);

async function folder(files: Record<string, Uint8Array> = {}): Promise<string> {
  const song = await encode([left, right], rateHz, 'wav', { bits: 32 });
  return put(await temporaryFolder(), { 'song.wav': song, ...files });
}

const call = (where: string, line: string) => bijou(where, ...words(line));

/** What another program finds in a WAV file. */
async function samplesOf(where: string, name: string): Promise<Float32Array[]> {
  const file = new wavefile.WaveFile(await readFile(join(where, name)));
  return [...(file.getSamples(false, Float64Array) as unknown as Float64Array[])].map(
    (channel) => new Float32Array(channel),
  );
}

async function loopIn(where: string, name: string) {
  const file = new wavefile.WaveFile(await readFile(join(where, name)));
  const { loops } = file.smpl as { loops: { dwStart: number; dwEnd: number }[] };
  return loops.map(({ dwStart, dwEnd }) => [dwStart, dwEnd]);
}

interface Made {
  loop: { startFrame: number; endFrame: number; lengthFrames: number };
  seam: { before: { score: number }; after: { score: number } };
  addedFrames: number;
  tailLeftDbfs: number | null;
  outputs: { role: string; output: string; frames: number; sampleRateHz: number }[];
  cueSheet?: string;
}
const first = ({ out }: Ran) => (JSON.parse(out) as Made[])[0]!;

describe('loop show', () => {
  test('answers where it loops and how its seam is', async () => {
    const tone = await encode([sine(48_000, 480, 48_000)], 48_000, 'wav', { bits: 16 });
    const where = await folder({ 'tone.wav': tone });
    const { status, out } = await call(where, 'loop show tone.wav song.wav --json');
    expect(status).toBe(0);
    expect(JSON.parse(out)).toEqual([
      {
        file: 'tone.wav',
        sampleRateHz: 48_000,
        loop: { startFrame: 0, endFrame: 48_000, lengthFrames: 48_000 },
        seam: {
          score: expect.closeTo(100, 0) as number,
          levelStepDb: expect.any(Number) as number,
          slopeStepDb: expect.any(Number) as number,
          loudnessDifferenceLu: expect.closeTo(0, 1) as number,
          timbreDifference: expect.closeTo(0, 1) as number,
          dipDb: 0,
        },
      },
      expect.objectContaining({ file: 'song.wav' }),
    ]);
    const cut = await call(where, 'loop show tone.wav --start 0.25 --end 12025f --json');
    expect(JSON.parse(cut.out)).toMatchObject([{ file: 'tone.wav', error: { code: 'bad-span' } }]);
    const off = await call(where, 'loop show tone.wav --end 0.99947 --json');
    expect((JSON.parse(off.out) as { seam: { score: number } }[])[0]!.seam.score).toBeLessThan(40);
  });

  test('takes the loop that the file states, and says when that lies beyond its end', async () => {
    const where = await folder();
    await call(where, 'loop make song.wav --out marked --start 1 --end 3');
    const shown = await call(where, 'loop show marked/song.wav --json');
    expect(JSON.parse(shown.out)).toMatchObject([
      { loop: { startFrame: rateHz, endFrame: 3 * rateHz, lengthFrames: 2 * rateHz } },
    ]);
    const bytes = await readFile(join(where, 'marked/song.wav'));
    bytes.writeUInt32LE(9_999_999, bytes.indexOf('smpl') + 8 + 48);
    await put(where, { 'beyond.wav': bytes });
    const beyond = await call(where, 'loop show beyond.wav --json');
    expect(JSON.parse(beyond.out)).toMatchObject([
      { loop: { startFrame: 0, lengthFrames: left.length } },
    ]);
    expect(beyond.err).toMatch(/states a loop from frame 22,050 to 10,000,000/);
  });
});

describe('loop make', () => {
  test('writes pieces that follow one another to the bit', async () => {
    const where = await folder();
    const ran = await call(
      where,
      'loop make song.wav --out out --start 2 --end 5 --wrap-tail 1.5,-6 --parts --bits 32f --json',
    );
    expect(ran.status).toBe(0);
    expect(first(ran)).toMatchObject({
      addedFrames: 3 * rateHz,
      loop: { lengthFrames: 3 * rateHz },
    });
    const [intro, pass, repeat] = await Promise.all(
      ['intro', 'first', 'repeat'].map((name) => samplesOf(where, `out/song ${name}.wav`)),
    );
    const gain = 10 ** (-6 / 20);
    for (const [c, source] of [left, right].entries()) {
      expect(intro![c]).toEqual(source.subarray(0, 2 * rateHz));
      expect(pass![c]).toEqual(source.subarray(2 * rateHz, 5 * rateHz));
      const wanted = source.slice(2 * rateHz, 5 * rateHz);
      for (let i = 0; i < 1.5 * rateHz; i++) {
        wanted[i] = Math.fround(wanted[i]! + source[5 * rateHz + i]! * gain);
      }
      expect(repeat![c]).toEqual(wanted);
    }
    expect(await loopIn(where, 'out/song repeat.wav')).toEqual([[0, 3 * rateHz - 1]]);
    // Noise does not ring out; its tail is 6 dB quieter.
    expect(first(ran).tailLeftDbfs).toBeCloseTo(20 * Math.log10(0.4) - 6, 0);
    // What the sound does not have does not ring.
    const short = await call(
      where,
      'loop make song.wav --out short --start 1 --end 7 --wrap-tail 3 --parts --bits 32f',
    );
    expect(short.status).toBe(0);
    const [late] = await samplesOf(where, 'short/song repeat.wav');
    expect(late![0]).toBe(Math.fround(left[rateHz]! + left[7 * rateHz]!));
    expect(late!.subarray(rateHz)).toEqual(left.subarray(2 * rateHz, 7 * rateHz));
    expect(ran.err).toMatch(/Where the tail ends the sound is still at −\d/);
  });

  test('writes one file in which first pass and repeat are right, and nothing around is lost', async () => {
    const where = await folder();
    const line = 'loop make song.wav --out out --start 2 --end 5 --wrap-tail 1.5 --bits 32f --json';
    const ran = await call(where, line);
    expect(first(ran).outputs).toMatchObject([{ role: 'whole', frames: (SECONDS + 3) * rateHz }]);
    const [made] = await samplesOf(where, 'out/song.wav');
    expect(made!.subarray(0, 5 * rateHz)).toEqual(left.subarray(0, 5 * rateHz));
    expect(made!.subarray(8 * rateHz)).toEqual(left.subarray(5 * rateHz));
    expect(await loopIn(where, 'out/song.wav')).toEqual([[5 * rateHz, 8 * rateHz - 1]]);
    const later = await call(
      where,
      `${line.replace('out --start', 'later --intro-from 1.5 --start')}`,
    );
    expect(first(later).outputs[0]!.frames).toBe((SECONDS + 1.5) * rateHz);
    expect(await loopIn(where, 'later/song.wav')).toEqual([[3.5 * rateHz, 6.5 * rateHz - 1]]);
  });

  test('crossfades into what leads up to the start; a whole sound begins that much later', async () => {
    const where = await folder();
    await call(where, 'loop make song.wav --out out --crossfade 0.5,linear --bits 32f');
    const [made] = await samplesOf(where, 'out/song.wav');
    const half = rateHz / 2;
    expect(made).toHaveLength(left.length);
    expect(made!.subarray(0, left.length - half)).toEqual(left.subarray(0, left.length - half));
    expect(await loopIn(where, 'out/song.wav')).toEqual([[half, left.length - 1]]);
    for (const i of [0, 1_000, half - 1]) {
      const t = (i + 1) / half;
      const wanted = left[left.length - half + i]! * (1 - t) + left[i]! * t;
      expect(made![left.length - half + i]).toBeCloseTo(wanted, 6);
    }
    const refused = await call(
      where,
      'loop make song.wav --out no --start 0.2 --crossfade 0.5 --json',
    );
    expect(refused.status).toBe(1);
    expect(JSON.parse(refused.out)).toMatchObject([
      {
        error: {
          code: 'bad-span',
          message: expect.stringMatching(/in front of the loop: 4,410 frames/),
        },
      },
    ]);
    expect(await readdir(join(where, 'no'))).toEqual([]);
  });

  test('makes a listening copy with a fade to nothing, and the whole handover set', async () => {
    const where = await folder();
    const ran = await call(
      where,
      'loop make song.wav --out out --start 1 --end 4 --wrap-tail 1 --handover --listening-copy 2,1,0.5 --tag title=Waltz --json',
    );
    expect(ran.status).toBe(0);
    expect((await readdir(join(where, 'out'))).sort()).toEqual([
      'song cue.json',
      'song cue.txt',
      'song first.wav',
      'song intro.wav',
      'song listening.mp3',
      'song repeat.wav',
    ]);
    const { outputs } = first(ran);
    const parts = outputs.filter(({ role }) => role !== 'listening');
    expect(parts.map(({ frames }) => frames)).toEqual([rateHz, 3 * rateHz, 3 * rateHz]);
    const sheet = JSON.parse(await readFile(join(where, 'out/song cue.json'), 'utf8')) as object;
    expect(sheet).toMatchObject({
      name: 'song',
      sampleRateHz: rateHz,
      repeatCarriesTail: true,
      pieces: [
        { piece: 'intro', file: 'song intro.wav', plays: 'once', startFrame: 0, frames: rateHz },
        { piece: 'first', plays: 'once', startFrame: rateHz },
        { piece: 'repeat', plays: 'around', startFrame: 4 * rateHz, frames: 3 * rateHz },
      ],
      listeningCopy: { file: 'song listening.mp3', times: 2 },
    });
    const text = await readFile(join(where, 'out/song cue.txt'), 'utf8');
    expect(text).toMatch(/2\. song first\.wav \(first pass\): once; 66,150 frames, 0:03\.000/);
    const copy = await readFile(join(where, 'out/song listening.mp3'));
    const { format, common } = await parseBuffer(copy, 'audio/mpeg');
    expect(common.title).toBe('Waltz');
    const { facts } = await probe(memorySource(copy));
    // 15 ms, intro, a pass, one and a half seconds of the other, 2 s.
    expect(facts.seconds).toBeCloseTo(0.015 + 1 + 3 + 1.5 + 2, 2);
    expect(format.bitrate).toBeGreaterThan(150_000);
    const wave = await call(
      where,
      'loop make song.wav --out wav --start 1 --end 4 --listening-copy 3 --format wav --bits 16',
    );
    expect(wave.status).toBe(0);
    const [heard] = await samplesOf(where, 'wav/song listening.wav');
    expect(heard).toHaveLength(Math.round(0.015 * rateHz) + 10 * rateHz + 2 * rateHz);
    expect(heard!.subarray(-2 * rateHz - 1).every((x) => x === 0)).toBe(true);
  });

  test.each([8_000, 11_025, 44_100, 48_000, 96_000])(
    'at %i Hz loop and pieces are whole',
    async (hz) => {
      const where = await folder();
      const line = `loop make song.wav --out out --start 1 --end 3.3337 --wrap-tail 0.7 --rate ${hz} --json`;
      const [whole] = first(await call(where, line)).outputs;
      const parts = first(
        await call(where, `${line.replace('out out', 'out parts')} --parts`),
      ).outputs;
      const length = Math.round((Math.round(2.3337 * rateHz) * hz) / rateHz);
      const [[start, last]] = (await loopIn(where, 'out/song.wav')) as [[number, number]];
      expect(last + 1 - start).toBe(length);
      expect(parts.map(({ sampleRateHz }) => sampleRateHz)).toEqual([hz, hz, hz]);
      const [intro, pass, repeat] = parts.map(({ frames }) => frames);
      expect([pass, repeat]).toEqual([length, length]);
      expect(intro! + pass!).toBe(start);
      expect(last).toBeLessThan(whole!.frames);
    },
  );

  test('unrolls what runs back and forth, on request', async () => {
    const where = await folder();
    await call(where, 'loop make song.wav --out marked --start 1 --end 3');
    const bytes = await readFile(join(where, 'marked/song.wav'));
    bytes.writeUInt32LE(1, bytes.indexOf('smpl') + 8 + 40);
    await put(where, { 'back.wav': bytes });
    expect(JSON.parse((await call(where, 'loop show back.wav --json')).out)).toMatchObject([
      { loop: { startFrame: rateHz, endFrame: 3 * rateHz, isBackAndForth: true } },
    ]);
    const refused = await call(where, 'loop make back.wav --out out');
    expect([refused.status, refused.err]).toEqual([
      1,
      expect.stringMatching(/back and forth.*--unroll/),
    ]);
    const ran = await call(where, 'loop make back.wav --out out --unroll --json');
    expect(first(ran).outputs[0]!.frames).toBe(left.length + 2 * rateHz - 2);
    expect(await loopIn(where, 'out/back.wav')).toEqual([[rateHz, 5 * rateHz - 3]]);
  });

  test('says where a format has no place for loop points', async () => {
    const where = await folder();
    const mp3 = await call(
      where,
      'loop make song.wav --out out --start 1 --end 3 --format mp3 --json',
    );
    expect(mp3.err).toMatch(/MP3 has no place for the loop points/);
    expect(first(mp3).loop).toMatchObject({ startFrame: rateHz });
    for (const format of ['flac', 'ogg', 'aiff']) {
      const ran = await call(
        where,
        `loop make song.wav --out ${format} --start 1 --end 3 --format ${format} --json`,
      );
      expect(ran.err).not.toMatch(/no place/);
      expect(first(ran).outputs[0]).toMatchObject({
        loop: { startFrame: rateHz, endFrame: 3 * rateHz },
      });
    }
  });
});
