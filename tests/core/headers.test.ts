import fc from 'fast-check';
import { writers } from '@/core/formats';
import { headerFaults } from '../../tools/headers';
import { written } from './files';
import { pcmFromChannels } from '@/core/pcm/pcm';
import { sine } from './signals';

/** The checkers bite: hardly a byte of a header can be changed without their seeing it. */

const withHeaders = writers.filter(({ container }) => !['raw', 'c'].includes(container));

/** Where headers end and the sound begins. */
const soundMarks: Record<string, string> = {
  wav: 'data',
  aiff: 'SSND',
  mp4: 'mdat',
  webm: '\x1f\x43\xb6\x75',
};

async function fileOf(id: string) {
  const rateHz = 48_000;
  const marks = {
    tags: { title: 'Lamp', artist: 'Keeper' },
    loop: { startFrame: 10, endFrame: 900 },
    markers: [{ frame: 5, name: 'on' }],
  };
  const pcm = pcmFromChannels([sine(rateHz, 500, 1_000)], rateHz);
  return written(pcm, id, id === 'm4a' ? { kbps: 64 } : {}, undefined, marks);
}

/** How much of the headers is text, dates or reserved, which anything may stand in. */
const LEAST_SEEN: Record<string, number> = {
  wav: 0.9,
  aiff: 0.7,
  flac: 0.75,
  mp3: 0.5,
  ogg: 0.9,
  webm: 0.6,
  mp4: 0.45,
};

test.each(withHeaders.map(({ id }) => id))('%s', async (id) => {
  const { container } = withHeaders.find((writer) => writer.id === id)!;
  const bytes = await fileOf(id);
  const mark = soundMarks[container];
  const end = mark
    ? Buffer.from(bytes).indexOf(mark, 0, 'latin1') + 8
    : Math.min(bytes.length, 300);
  let seen = 0;
  for (let at = 0; at < end; at++) {
    const changed = bytes.slice();
    changed[at]! ^= 0x41;
    if (headerFaults(container, changed).length > 0) seen++;
  }
  expect([id, seen / end > LEAST_SEEN[container]!]).toEqual([id, true]);
});

test.each(withHeaders.map(({ id }) => id))(
  'a shortened %s is seen, wherever it ends',
  async (id) => {
    const { container } = withHeaders.find((writer) => writer.id === id)!;
    const bytes = await fileOf(id);
    fc.assert(
      fc.property(fc.integer({ min: 1, max: bytes.length - 1 }), (length) => {
        expect(headerFaults(container, bytes.subarray(0, length))).not.toEqual([]);
      }),
    );
  },
);
