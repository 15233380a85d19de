import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ManifestData, PackedSound } from '@/core/pack/data';
import { manifestKind, manifestKinds } from '@/core/pack/manifests';
import { textKind } from '@/core/pack/texts/kinds';
import { partFile } from './making';

const sound = (id: number, path: string, more: Partial<PackedSound> = {}): PackedSound => ({
  ...(partFile(id, path).made as PackedSound),
  ...more,
  path,
});
const piece = (name: 'intro' | 'first' | 'repeat') => ({
  ...{ of: 'waltz', ofId: 7, piece: name, repeatCarriesTail: true },
});
const data: ManifestData = {
  title: 'Storm "7" */ é',
  project: 'Marrow Skerry',
  brief: { id: 'isle', version: 2, title: 'Isle' },
  fields: { level: 80, hint: 'Press here' },
  sounds: [
    sound(1, 'gull.ogg', {
      loop: { startFrame: 100, endFrame: 600 },
      source: {
        ...{ name: 'g.wav', sha256: 'a' },
        tags: { artist: 'Ada', title: 'Gull', comment: 'CC0\nno rights' },
      },
    }),
    sound(2, '3 bells (é).ogg', {
      channels: 2,
      bytes: 10,
      source: { name: 'b', sha256: 'b', tags: {} },
    }),
    sound(3, 'w/waltz repeat.wav', { fileId: 'wav', frames: 300, piece: piece('repeat') }),
    sound(4, 'w/waltz first.wav', { fileId: 'wav', frames: 300, piece: piece('first') }),
    sound(5, 'w/waltz intro.wav', { fileId: 'wav', frames: 40, piece: piece('intro') }),
    sound(6, 'voices.ogg', {
      sheet: [
        { name: 'one', startFrame: 0, frames: 10, startSeconds: 0, seconds: 0.1 },
        { name: 'two', startFrame: 10, frames: 20, startSeconds: 0.1, seconds: 0.2 },
      ],
    }),
  ],
  calls: [],
  icon: null,
  notes: [],
  stage: null,
};
const text = (id: string, options: object = {}, of = data) =>
  manifestKind(id).text(of, options, () => Uint8Array.of(7, 8, 255));
const json = (id: string) => JSON.parse(text(id)) as Record<string, Record<string, unknown>[]>;

test('each is what it claims to be, says what its fields are, and has a word for an empty pack', () => {
  for (const kind of manifestKinds) {
    const empty = { ...data, sounds: [] };
    for (const of of [data, empty]) {
      const written = kind.text(of, {}, () => new Uint8Array());
      expect([kind.id, textKind(kind.is).problems(written)]).toEqual([kind.id, []]);
      expect(written.endsWith('\n')).toBe(true);
    }
    expect(Object.values(kind.fields).every((says) => says.length > 3)).toBe(true);
    if (kind.is !== 'json') continue;
    // What is at its top is what is explained, and the other way round.
    const top = Object.keys(kind.fields).filter((field) => /^\w+$/.test(field));
    const written = JSON.parse(text(kind.id)) as object;
    expect(Object.keys(written).every((field) => top.includes(field))).toBe(true);
  }
});

test('the asset list has every sound with its facts', () => {
  const { assets } = json('asset-list');
  expect(assets!.map(({ path }) => path)).toEqual(data.sounds.map(({ path }) => path));
  expect(assets![0]).toMatchObject({
    ...{ bytes: 1_001, frames: 88_200, sampleRateHz: 44_100, channels: 1, seconds: 2 },
    loop: { start: 100, length: 500 },
    source: { name: 'g.wav', sha256: 'a' },
  });
});

test('the sheet of offsets has files of several sounds', () => {
  expect(json('offsets').files).toEqual([
    expect.objectContaining({
      path: 'voices.ogg',
      sounds: [
        expect.objectContaining({ name: 'one' }),
        expect.objectContaining({ startFrame: 10 }),
      ],
    }),
  ]);
});

test('cue sheet and map put the pieces of a loop into the order in which they are heard', () => {
  const [sheet] = json('cue-sheet').sheets as unknown as [{ pieces: Record<string, unknown>[] }];
  expect(sheet.pieces.map(({ file, plays, startFrame }) => [file, plays, startFrame])).toEqual([
    ['w/waltz intro.wav', 'once', 0],
    ['w/waltz first.wav', 'once', 40],
    ['w/waltz repeat.wav', 'around', 340],
  ]);
  expect(text('cue-text')).toMatch(
    /1\. w\/waltz intro\.wav .*\n2\. .*first.*\n3\. .*again and again/,
  );
  const music = json('music-map').music!;
  expect(music[0]).toMatchObject({ name: 'waltz' });
  expect((music[0]!['plays'] as { part: string }[]).map(({ part }) => part)).toEqual([
    ...['intro', 'first', 'repeat'],
  ]);
  expect(music.find(({ name }) => name === 'gull')).toMatchObject({
    plays: [{ part: 'whole', again: true, loop: { start: 100, length: 500 } }],
  });
});

test('credits name authors once, with titles and licences; settings say what is set by hand', () => {
  expect(text('credits')).toContain('Ada\n- gull (“Gull”); CC0 no rights\n');
  expect(text('credits')).toMatch(/Without a name in their files\n- 3 bells/);
  expect(text('host-settings')).toContain(
    'gull.ogg\n  length: 0:02.000\n  a tap: starts or stops it\n  fade: 0 s\n  loop: on\n  level: 80\n',
  );
  expect(text('host-settings')).toContain('Hint on the screen\n  text: Press here\n');
});

describe('the C header', () => {
  const header = text('c-header', { withBytes: true });

  test('has a name for each file, its size, and where it begins when all lie in a row', () => {
    expect(header).toMatch(/^[\0-\x7f]*$/);
    expect(header).toContain('#define SOUND_COUNT 6\n');
    expect(header).toContain('#define SOUND_N3_BELLS_E 1\n');
    expect(header).toContain('{ "gull.ogg", 0UL, 1001UL, 88200UL, 44100UL, 1, gull_data }');
    expect(header).toContain(', 1001UL, 10UL, 88200UL, 44100UL, 2, n3_bells_e_data }');
    expect(header).toContain('gull_data[3] = {\n  7, 8, 255\n};');
    expect(text('c-header')).not.toContain('_data');
    expect(text('c-header', { prefix: 'SFX' })).toContain('#define SFX_GULL 0\n');
  });

  test('is taken by a compiler, where there is one', () => {
    const folder = mkdtempSync(join(tmpdir(), 'bijou-c-'));
    try {
      writeFileSync(join(folder, 'sounds.h'), header);
      writeFileSync(
        join(folder, 'a.c'),
        '#include <stdio.h>\n#include "sounds.h"\n#include "sounds.h"\n' +
          'int main(void) { printf("%d %lu %d", SOUND_COUNT, sounds[SOUND_N3_BELLS_E].offset, sounds[0].data[2]); return 0; }\n',
      );
      try {
        execFileSync('cc', ['-std=c99', '-Wall', '-Werror', 'a.c', '-o', 'a'], { cwd: folder });
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code === 'ENOENT') return;
        throw error;
      }
      expect(execFileSync(join(folder, 'a')).toString()).toBe('6 1001 255');
    } finally {
      rmSync(folder, { recursive: true });
    }
  });

  test('of no files has no empty array', () => {
    expect(text('c-header', {}, { ...data, sounds: [] })).not.toContain('sounds[');
  });
});
