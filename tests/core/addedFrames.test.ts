import imaadpcm from 'imaadpcm';
import { memorySource } from '@/core/bytes/source';
import { openSound } from '@/core/formats/open';
import { packetFrames } from '@/core/formats/opus/packet';
import { oggPackets } from '@/core/formats/ogg/packets';
import { encode } from './files';
import { sine } from './signals';

/** What codecs add at the end is counted, so that it is known what a careless player would play. */
async function added(writer: string, rateHz: number, frames: number, settings: object = {}) {
  const bytes = await encode([sine(rateHz, 440, frames)], rateHz, writer, settings);
  const { header } = await openSound(memorySource(bytes));
  return { bytes, header, ...header.addedFrames };
}

test.each([1, 960, 961, 5_000, 48_000, 49_353, 300_000, 4_000_003])(
  'Ogg Opus and WebM of %i frames',
  async (frames) => {
    const packets = Math.ceil((frames + 312) / 960);
    expect(await added('ogg-opus', 48_000, frames, { kbps: 32 })).toMatchObject({
      head: 312,
      tail: packets * 960 - 312 - frames,
    });
    if (frames > 100_000) return;
    const inWebm = Math.ceil((frames + 336) / 960);
    expect(await added('webm', 48_000, frames)).toMatchObject({
      head: 336,
      tail: inWebm * 960 - 336 - frames,
    });
  },
);

test('what is counted for Opus is what its packets hold', async () => {
  const { bytes, header, head, tail } = await added('ogg-opus', 48_000, 77_777);
  let sum = 0;
  let count = 0;
  for await (const { data } of oggPackets(memorySource(bytes), 0x0b1901)) {
    if (count++ >= 2) sum += packetFrames(data, 1)!;
  }
  expect(head + header.frames! + tail).toBe(sum);
});

test.each([1, 1_023, 1_024, 1_025, 44_100, 45_009])('M4A of %i frames', async (frames) => {
  const packets = 2 + Math.ceil(frames / 1_024);
  expect(await added('m4a', 44_100, frames, { kbps: 64 })).toMatchObject({
    head: 2_048,
    tail: packets * 1_024 - 2_048 - frames,
  });
});

test.each([1, 505, 2_041, 44_100])('IMA ADPCM of %i frames', async (frames) => {
  const perBlock = 2_041;
  const { bytes, tail } = await added('wav-ima-adpcm', 44_100, frames);
  expect(tail).toBe(Math.ceil(frames / perBlock) * perBlock - frames);
  // A player that does not look at `fact` hears silence soon, and no step.
  const blocks = bytes.subarray(bytes.length - 1_024);
  const decoded = imaadpcm.decode(Uint8Array.from(blocks), 1_024) as Int16Array;
  const behind = decoded.subarray(perBlock - tail);
  const loudest = (from: number) =>
    behind.subarray(from).reduce((most, x) => Math.max(most, Math.abs(x)), 0);
  if (tail > 400) expect(loudest(300)).toBeLessThan(40);
});
