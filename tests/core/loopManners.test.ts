import { MemorySink } from '@/core/bytes/source';
import type { Loop } from '@/core/marks';
import { noMarks } from '@/core/marks';
import { pcmFromChannels } from '@/core/pcm/pcm';
import { convert } from '@/core/convert';
import { memorySource } from '@/core/bytes/source';
import { emptyRecipe } from '@/core/recipe/types';
import { decode, written } from './files';
import { sine } from './signals';

/** What files say of their loops beyond where they lie: kept where there is a place for it, said where not. */

interface Stated {
  type: number;
  start: number;
  /** Inclusive, as the format has it. */
  end: number;
  times: number;
}

/** A WAV with loops as its specification has them, put together here. */
async function wavWith(loops: Stated[]): Promise<Uint8Array> {
  const plain = await written(pcmFromChannels([sine(8_000, 400, 4_000)], 8_000), 'wav', {
    bits: 16,
  });
  const smpl = Buffer.alloc(8 + 36 + 24 * loops.length);
  smpl.write('smpl');
  smpl.writeUInt32LE(smpl.length - 8, 4);
  smpl.writeUInt32LE(125_000, 8 + 8);
  smpl.writeUInt32LE(loops.length, 8 + 28);
  loops.forEach(({ type, start, end, times }, i) => {
    [i, type, start, end, 0, times].forEach((value, field) =>
      smpl.writeUInt32LE(value, 8 + 36 + i * 24 + field * 4),
    );
  });
  const bytes = Buffer.concat([plain, smpl]);
  bytes.writeUInt32LE(bytes.length - 8, 4);
  return bytes;
}

const usual: Stated = { type: 0, start: 100, end: 3_099, times: 0 };

/** Fields of the first loop of a WAV's `smpl` chunk. */
function statedIn(wav: Uint8Array): Stated {
  const bytes = Buffer.from(wav);
  const at = bytes.indexOf('smpl') + 8 + 36;
  const field = (i: number) => bytes.readUInt32LE(at + i * 4);
  return { type: field(1), start: field(2), end: field(3), times: field(5) };
}

async function converted(bytes: Uint8Array, writer: string, settings: object = {}) {
  const sink = new MemorySink();
  const { warnings } = await convert(
    memorySource(bytes),
    { recipe: emptyRecipe, writer, settings },
    sink,
  );
  return { bytes: sink.bytes(), said: warnings.map(({ message }) => message).join(' ') };
}

test.each([
  [{ ...usual }, {}],
  [{ ...usual, type: 1 }, { isBackAndForth: true }],
  [{ ...usual, type: 2 }, { isBackward: true }],
  [{ ...usual, times: 4 }, { times: 4 }],
  [
    { ...usual, type: 2, times: 1 },
    { isBackward: true, times: 1 },
  ],
])('%j is read and written as it is', async (stated, manner) => {
  const file = await wavWith([stated]);
  const { header, warnings } = await decode(file);
  expect(header.loop).toEqual({ startFrame: 100, endFrame: 3_100, ...manner });
  expect(warnings).toEqual([]);
  const again = await converted(file, 'wav', { bits: 16 });
  expect(statedIn(again.bytes)).toEqual(stated);
  expect(again.said).toBe('');
});

test('what a format has no place for is said', async () => {
  const backward = await wavWith([{ ...usual, type: 2, times: 4 }]);
  for (const [writer, settings] of [
    ['aiff', { bits: 16 }],
    ['flac', { bits: 16 }],
    ['ogg', { quality: 2 }],
  ] as const) {
    const { bytes, said } = await converted(backward, writer, settings);
    expect(said).toMatch(
      /no place for that the loop runs backward and that the loop ends after 4 passes/,
    );
    expect((await decode(bytes)).header.loop).toEqual({ startFrame: 100, endFrame: 3_100 });
  }
});

test('loops that are not used are said', async () => {
  const two = await decode(await wavWith([usual, { ...usual, start: 500 }]));
  expect(two.header.loop).toMatchObject({ startFrame: 100 });
  expect(two.warnings.map(({ message }) => message)).toEqual([
    'It states 2 loops; only the first is used.',
  ]);
  const reversed = await decode(await wavWith([{ ...usual, start: 3_000, end: 99 }]));
  expect(reversed.header.loop).toBeNull();
  expect(reversed.warnings[0]!.message).toMatch(/ends at frame 100, before it begins at 3,000/);
  const own = await decode(await wavWith([{ ...usual, type: 77 }]));
  expect(own.header.loop).toEqual({ startFrame: 100, endFrame: 3_100 });
  expect(own.warnings[0]!.message).toMatch(/only its maker knows \(77\)/);
});

test('so are those of AIFF and of comments', async () => {
  const loop: Loop = { startFrame: 100, endFrame: 3_100 };
  const pcm = () => pcmFromChannels([sine(8_000, 400, 4_000)], 8_000);
  const aiff = Buffer.from(
    await written(pcm(), 'aiff', { bits: 16 }, new MemorySink(), { ...noMarks, loop }),
  );
  const inst = aiff.indexOf('INST') + 8;
  const ends = [aiff.readInt16BE(inst + 10), aiff.readInt16BE(inst + 12)] as const;
  aiff.writeInt16BE(ends[1], inst + 10);
  aiff.writeInt16BE(ends[0], inst + 12);
  aiff.writeInt16BE(1, inst + 14);
  const { header, warnings } = await decode(aiff);
  expect(header.loop).toBeNull();
  expect(warnings.map(({ message }) => message)).toEqual([
    'It states a loop for when a note is let go: only that of a held note is used.',
    'It states a loop that ends at frame 100, before it begins at 3,100: the loop is not used.',
  ]);
  const flac = Buffer.from(
    await written(pcm(), 'flac', { bits: 16 }, new MemorySink(), { ...noMarks, loop }),
  );
  // As long a text, so that nothing else moves.
  const at = flac.indexOf('LOOPLENGTH=3000');
  flac.write('LOOPEND=050\0\0\0\0', at);
  flac.write('LOOPEND=0000050', at);
  const stated = await decode(flac);
  expect(stated.header.loop).toBeNull();
  expect(stated.warnings[0]!.message).toMatch(/ends at frame 50, before it begins at 100/);
});
