import { MemorySink, memorySource } from '@/core/bytes/source';
import { convert } from '@/core/convert';
import { readIndex } from '@/core/formats/mp4/boxes';
import { dataHead, fileType, movie, packetCount } from '@/core/formats/mp4/fileBoxes';
import { m4aWriter } from '@/core/formats/mp4/writer';
import { headerFaults } from '../../tools/headers';
import { encode, written } from './files';
import { sine } from './signals';

/** The index counts in frames of the sound: no length at any legal rate comes out a frame short or long. */

const rates = m4aWriter.legal.rates as readonly number[];
const rateCodes = [
  96_000, 88_200, 64_000, 48_000, 44_100, 32_000, 24_000, 22_050, 16_000, 12_000, 11_025, 8_000,
];

/** A file whose packets are a byte each: what matters here is what the index says of them. */
function fileOf(frames: number, rateHz: number): Uint8Array {
  const packetBytes = new Array<number>(packetCount(frames)).fill(1);
  const code = (2 << 11) | (rateCodes.indexOf(rateHz) << 7) | (1 << 3);
  const config = Uint8Array.of(code >> 8, code & 255);
  const facts = { rateHz, channelCount: 1, frames, packetBytes, config, tags: {} };
  const type = fileType();
  const head = dataHead(packetBytes.length);
  const dataAt = type.length + movie(facts, 0).length + head.length;
  return Buffer.concat([type, movie(facts, dataAt), head, Uint8Array.from(packetBytes)]);
}

test('edits, durations and packets agree for every length, at every rate in turn', async () => {
  const wrong: string[] = [];
  for (let frames = 1; frames <= 70_000; frames += frames < 3_000 ? 1 : 11) {
    const rateHz = rates[frames % rates.length]!;
    const bytes = fileOf(frames, rateHz);
    const faults = headerFaults('mp4', bytes);
    const { window } = await readIndex(memorySource(bytes));
    const found = Math.round(window!.length! * rateHz);
    if (faults.length > 0 || found !== frames) wrong.push(`${frames} at ${rateHz}: ${faults[0]}`);
  }
  expect(wrong).toEqual([]);
});

test('a stream that did not say its length has its index behind, and is as exact', async () => {
  const sound = [sine(44_100, 300, 5_003)];
  const pcm = {
    rateHz: 44_100,
    channelCount: 1,
    frames: null,
    gridBits: null,
    blocks: (async function* () {
      yield sound;
    })(),
  };
  const sink = new MemorySink();
  await expect(written(pcm, 'm4a', { kbps: 64 }, sink)).rejects.toThrow(/stands behind the sound/);
  const { window } = await readIndex(memorySource(sink.bytes()));
  expect(Math.round(window!.length! * 44_100)).toBe(5_003);
});

test('a track that is no number is said to be lost; a number of several is kept', async () => {
  const wav = await encode([sine(8_000, 300, 800)], 8_000, 'wav', { bits: 16 });
  const run = async (track: string) => {
    const sink = new MemorySink();
    const recipe = { version: 1 as const, steps: [] };
    const conversion = { recipe, writer: 'm4a', settings: { kbps: 32 }, tags: { track } };
    const { warnings } = await convert(memorySource(wav), conversion, sink);
    const { tags } = await readIndex(memorySource(sink.bytes()));
    return { track: tags.track, warnings: warnings.map(({ message }) => message) };
  };
  expect(await run('3/12')).toEqual({ track: '3/12', warnings: [] });
  expect(await run('7')).toEqual({ track: '7', warnings: [] });
  const lost = await run('A side');
  expect(lost.track).toBeUndefined();
  expect(lost.warnings).toEqual([expect.stringMatching(/no place for the track "A side"/)]);
});
