import { memorySource } from '@/core/bytes/source';
import { openSound } from '@/core/formats/open';
import { collectChannels } from '@/core/pcm/pcm';
import { breaksInside, brokenStarts } from '../../tools/answers/breaks';
import { sungNote, syllables } from '../../tools/answers/signals';
import { encode } from './files';

/** No codec breaks the start of a sound, nor a packet in the middle of one. All of it: `npm run bench answers`. */

async function comesOut(sound: Float32Array[], rateHz: number, writer: string, settings: object) {
  const bytes = await encode(sound, rateHz, writer, settings);
  const decoded = await collectChannels((await openSound(memorySource(bytes))).pcm());
  return { bytes: bytes.length, decoded };
}

const SILENCE = 8_192;

function behindSilence(sound: readonly Float32Array[]): Float32Array[] {
  return sound.map((channel) => {
    const later = new Float32Array(SILENCE + channel.length);
    later.set(channel, SILENCE);
    return later;
  });
}

test.each([
  // These notes began badly where there was no lead.
  ['mp3', { kbps: 192 }, 44_100, [0, 7, 12]],
  ['mp3', { quality: 2 }, 44_100, [0, 7, 12]],
  // Behind silence, these come out no larger than without it.
  ['m4a', { kbps: 128 }, 44_100, [2, 3, 4]],
  ['ogg', { quality: 4 }, 44_100, [0, 7, 12]],
  ['ogg-opus', { kbps: 96 }, 48_000, [0, 7, 12]],
])(
  'what begins at once is no worse than behind silence: %s %j',
  async (writer, settings, rateHz, seeds) => {
    const found: number[][] = [];
    for (const seed of seeds) {
      const sound = sungNote(seed, rateHz, 20_000);
      const { decoded } = await comesOut(sound, rateHz, writer, settings);
      const later = await comesOut(behindSilence(sound), rateHz, writer, settings);
      const other = later.decoded.map((channel) => channel.subarray(SILENCE));
      found.push(brokenStarts(sound, decoded, other));
    }
    expect(found).toEqual(seeds.map(() => []));
  },
);

// Each of them had such places: 18, 6 and 7 steps whose error was as loud as the sound.
test.each([
  [5, 64],
  [5, 96],
  [17, 96],
])('AAC breaks nothing in the middle: sound %i at %i kbit/s', async (seed, kbps) => {
  const sound = [syllables(seed, 44_100, 66_150)];
  const { bytes, decoded } = await comesOut(sound, 44_100, 'm4a', { kbps });
  expect(breaksInside(sound, decoded)).toEqual([]);
  // What was encoded once more may cost a little.
  expect(bytes).toBeLessThan(kbps * 125 * 1.5 * 1.7);
});

test('long sounds are mended as short ones are', async () => {
  const one = syllables(5, 44_100, 66_150);
  const sound = new Float32Array(44_100 * 25);
  // Places on the grid of packets, the last of them where the end is near.
  for (const at of [0, 300, 1_000]) sound.set(one, at * 1_024);
  const { decoded } = await comesOut([sound], 44_100, 'm4a', { kbps: 96 });
  expect(breaksInside([sound], decoded)).toEqual([]);
});
