import { createHash } from 'node:crypto';
import { cpSync } from 'node:fs';
import { PNG } from 'pngjs';
import { parseBuffer } from 'music-metadata';
import wavefile from 'wavefile';
import makeDemoData, { DEMO_DATA } from '../demoData';
import { cleanUp, freshBijou, temporaryFolder, unzipped } from './folder';

afterAll(cleanUp);

/** What lies in the pack of each built-in layout, made of the demo project. */
const golden: Record<string, string[]> = {
  'ar-filter': ['buoy bell.m4a', 'foghorn.m4a', 'gallery wind.m4a', 'settings.txt'],
  'web-page': [
    ...['assets.json', 'foghorn.mp3', 'foghorn.ogg', "keeper's waltz.mp3", "keeper's waltz.ogg"],
    ...['surf bed.mp3', 'surf bed.ogg'],
  ],
  'game-mod': [
    ...['calls.json', 'creatures/gull.ogg', 'credits.txt', 'icon.png', 'isle.json'],
    ...['lighthouse/door_latch.ogg', 'places/gallery.ogg', 'places/house.ogg'],
    ...[
      'places/lamp_room.ogg',
      'places/landing.ogg',
      'places/shore.ogg',
      'read_me.txt',
      'signals/foghorn.ogg',
    ],
  ],
  'engine-effects': [
    ...['assets.json', 'creatures_gull.wav', 'lighthouse_door_latch.wav'],
    ...['lighthouse_lamp_motor.wav', 'offsets.json'],
  ],
  'engine-music': ['credits.txt', "keeper's waltz.ogg", 'music.json', 'surf bed.ogg'],
  handheld: ['SEA.WAV', 'TITLE.WAV'],
  'pocket-toy': ['door_latch.wav', 'sounds.h', 'z_gull.wav'],
  'composer-handover': [
    ...['credits.txt', 'cues.json', 'cues.txt', "keeper's waltz.mp3", "keeper's waltz.wav"],
  ],
  archive: ['assets.json', 'credits.txt', 'machines/lantern room.flac', 'signals/buoy bell.flac'],
};

/** Codec, rate and channels that each destination has to get, as an independent reader finds them. */
const demanded: Record<string, [codec: RegExp, rateHz: RegExp, channels: RegExp]> = {
  'ar-filter': [/AAC/, /^44100$/, /^1$/],
  'web-page': [/Vorbis|MPEG/, /^(44100|48000)$/, /^[12]$/],
  'game-mod': [/Vorbis/, /^(44100|48000)$/, /^[12]$/],
  'engine-effects': [/PCM/, /^(44100|48000|22050)$/, /^1$/],
  'engine-music': [/Vorbis/, /^(44100|48000)$/, /^2$/],
  handheld: [/ADPCM/, /^44100$/, /^2$/],
  'pocket-toy': [/PCM/, /^(8000|11025)$/, /^1$/],
  'composer-handover': [/PCM|MPEG/, /^(44100|48000)$/, /^2$/],
  archive: [/FLAC/, /^48000$/, /^[24]$/],
};

const text = (files: Map<string, Buffer>, path: string) =>
  new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(files.get(path));

test('each built-in layout makes a right pack of the demo project, out of the box', async () => {
  const folder = await temporaryFolder();
  makeDemoData();
  cpSync(DEMO_DATA, folder, { recursive: true });
  const { bijou } = await freshBijou(folder);
  const packs = new Map<string, Map<string, Buffer>>();
  for (const id of Object.keys(golden)) {
    const pack = await bijou.packing.make(1, [id]);
    await bijou.jobs.idle();
    expect([id, (await bijou.packing.details(pack.id, null)).error]).toEqual([id, null]);
    packs.set(id, await unzipped(bijou.packing.zip(pack.id).stream));
  }
  // What is undecided stands at briefs without a layout.
  const undecided = bijou.packs
    .cells(1)
    .filter(({ state }) => state === 'decide' || state === 'cannot');
  expect(undecided.length).toBeGreaterThan(0);
  expect(undecided.filter(({ briefId }) => golden[briefId])).toEqual([]);

  for (const [id, paths] of Object.entries(golden)) {
    const files = packs.get(id)!;
    expect([id, [...files.keys()]]).toEqual([id, paths]);
    const [codec, rate, channels] = demanded[id]!;
    for (const path of paths.filter((one) => /\.(wav|ogg|mp3|m4a|flac)$/i.test(one))) {
      const { format } = await parseBuffer(files.get(path)!, { path });
      expect([path, format.codec]).toEqual([path, expect.stringMatching(codec)]);
      expect([path, String(format.sampleRate)]).toEqual([path, expect.stringMatching(rate)]);
      expect([path, String(format.numberOfChannels)]).toEqual([
        path,
        expect.stringMatching(channels),
      ]);
    }
    for (const path of paths.filter((one) => one.endsWith('.json'))) JSON.parse(text(files, path));
  }

  const mod = packs.get('game-mod')!;
  expect(JSON.parse(text(mod, 'isle.json'))).toMatchObject({ title: 'Marrow Skerry', edition: 3 });
  const { calls } = JSON.parse(text(mod, 'calls.json')) as {
    calls: { id: string; variants: { path: string }[] }[];
  };
  expect(calls.map(({ id }) => id)).toContain('creatures/gull');
  for (const { variants } of calls)
    for (const { path } of variants) expect(mod.has(path)).toBe(true);
  const icon = PNG.sync.read(mod.get('icon.png')!);
  expect([icon.width, icon.height]).toEqual([128, 128]);
  expect(mod.get('places/landing.ogg')!.equals(mod.get('places/shore.ogg')!)).toBe(true);
  for (const path of mod.keys()) expect(path).toMatch(/^[a-z0-9_/.-]+$/);

  const page = packs.get('web-page')!;
  const { assets } = JSON.parse(text(page, 'assets.json')) as {
    assets: { path: string; sha256: string; bytes: number; seconds: number }[];
  };
  expect(assets.map(({ path }) => path)).toEqual(golden['web-page']!.slice(1));
  for (const { path, sha256, bytes } of assets) {
    const file = page.get(path)!;
    expect([path, file.length]).toEqual([path, bytes]);
    expect(createHash('sha256').update(file).digest('hex')).toBe(sha256);
  }

  // The loop lies inside of the file, where the console looks for it.
  const sea = new wavefile.WaveFile(new Uint8Array(packs.get('handheld')!.get('SEA.WAV')!));
  expect((sea as unknown as { smpl: { loops: unknown[] } }).smpl.loops).toHaveLength(1);
  const toy = packs.get('pocket-toy')!;
  const header = text(toy, 'sounds.h');
  const latch = toy.get('door_latch.wav')!;
  expect(header).toContain(`{ "door_latch.wav", 0UL, ${latch.length}UL,`);
  expect(header).toContain(
    `door_latch_data[${latch.length}] = {\n  ${[...latch.subarray(0, 16)].join(', ')}`,
  );
  expect(text(packs.get('ar-filter')!, 'settings.txt')).toContain(
    'foghorn.m4a\n  length: 0:05.120',
  );
  const { music } = JSON.parse(text(packs.get('engine-music')!, 'music.json')) as {
    music: { plays: { path: string; loop: { start: number } }[] }[];
  };
  expect(music.map(({ plays }) => plays[0]!.loop.start > 0)).toEqual([true, true]);
}, 180_000);
