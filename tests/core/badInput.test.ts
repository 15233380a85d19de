import { memorySource } from '@/core/bytes/source';
import { openSound } from '@/core/formats/open';
import { probe } from '@/core/measure/probe';
import { decode, refusal, samples } from './files';

const text = (value: string) => new TextEncoder().encode(value);

test('an empty file, text and noise say what they are', async () => {
  expect(await refusal(new Uint8Array(0))).toMatchObject({ code: 'empty-file' });
  expect((await refusal(text('Dear Sir,\nplease find attached'))).message).toMatch(
    /text, not sound/,
  );
  const bytes = Uint8Array.from({ length: 5_000 }, (_, i) => (i * 7919) % 251);
  expect(await refusal(bytes)).toMatchObject({ code: 'not-audio' });
});

test.each(Object.entries(samples))(
  '%s: a cut-off file keeps what can be decoded, and says so',
  async (_, make) => {
    const whole = await make();
    const { channels, warnings } = await decode(whole.subarray(0, Math.floor(whole.length * 0.6)));
    expect(warnings.map(({ code }) => code)).toContain('truncated');
    expect(channels[0]!.length).toBeGreaterThan(10_000);
    expect(channels[0]!.length).toBeLessThan(44_100);
    expect(channels.flatMap((channel) => [...channel]).every(Number.isFinite)).toBe(true);
  },
);

test.each(Object.entries(samples))(
  '%s: cut anywhere, it answers or refuses in words',
  async (_, make) => {
    const whole = await make();
    for (let length = 1; length < 700; length += 37) {
      await probe(memorySource(whole.subarray(0, length))).then(
        ({ facts }) => expect(facts.frames).toBeGreaterThan(0),
        (error: unknown) =>
          expect(error).toMatchObject({ name: 'BijouError', hint: expect.any(String) }),
      );
    }
  },
);

test.each(Object.entries(samples))(
  '%s: damaged in the middle, it neither crashes nor gives NaN',
  async (_, make) => {
    const damaged = (await make()).slice();
    for (let i = Math.floor(damaged.length * 0.7); i < damaged.length * 0.72; i++)
      damaged[i]! ^= 0x5a;
    await decode(damaged).then(
      ({ channels }) => expect(channels.flatMap((c) => [...c]).every(Number.isFinite)).toBe(true),
      (error: unknown) => expect(error).toMatchObject({ name: 'BijouError' }),
    );
  },
);

describe('WAV', () => {
  test('with a length that lies: everything that is there is read', async () => {
    const bytes = (await samples.wav()).slice();
    const view = new DataView(bytes.buffer);
    view.setUint32(40, 0xfffffff0, true);
    expect(await decode(bytes)).toMatchObject({
      header: { frames: 44_100 },
      warnings: [{ code: 'lying-length' }],
    });
    view.setUint32(40, 44_100 * 8, true);
    expect(await decode(bytes)).toMatchObject({
      header: { frames: 44_100 },
      warnings: [{ code: 'truncated' }],
    });
    view.setUint32(40, 400, true);
    expect((await decode(bytes)).header.frames).toBe(100);
  });

  test('with zero frames', async () => {
    expect(await refusal((await samples.wav()).subarray(0, 44))).toMatchObject({
      code: 'no-sound',
    });
  });

  test.each([
    ['no channels', 22, 0],
    ['a rate of 3 Hz', 24, 3],
    ['a block size that contradicts', 32, 7],
  ])('with %s', async (_, at, value) => {
    const bytes = (await samples.wav()).slice();
    new DataView(bytes.buffer).setUint16(at, value, true);
    new DataView(bytes.buffer).setUint16(26, 0, true);
    expect(await refusal(bytes)).toMatchObject({ code: 'damaged-header' });
  });

  test('with a codec that is not known: it is named', async () => {
    const bytes = (await samples.wav()).slice();
    new DataView(bytes.buffer).setUint16(20, 0x02, true);
    const error = await refusal(bytes);
    expect(error).toMatchObject({ code: 'unknown-codec' });
    expect(error.message).toMatch(/Microsoft ADPCM/);
  });
});

test('Ogg with a codec that is not read is named and refused', async () => {
  const bytes = (await samples.ogg()).slice();
  bytes.set(text('Speex   '), 28);
  expect((await refusal(bytes)).message).toMatch(/Speex/);
});

test('M4A whose index is missing cannot be decoded, and says why', async () => {
  const bytes = (await samples.m4a()).slice();
  const at = Buffer.from(bytes).indexOf('moov');
  bytes.set(text('free'), at);
  expect(await refusal(bytes)).toMatchObject({
    code: 'damaged-header',
    message: expect.stringMatching(/index/),
  });
});

test('MP3 without a delay header is read whole, with a warning', async () => {
  const bytes = await samples.mp3();
  const plain = bytes.subarray(417); // behind the delay header's frame
  const { channels, warnings } = await decode(plain);
  expect(warnings).toMatchObject([{ code: 'no-delay-header' }]);
  expect(channels[0]!.length % 1152).toBe(0);
});

test('MP3 behind an ID3 tag is found', async () => {
  const tag = Uint8Array.from([
    0x49,
    0x44,
    0x33,
    3,
    0,
    0,
    0,
    0,
    7,
    0x68,
    ...new Array<number>(1000).fill(0),
  ]);
  const { header } = await decode(Buffer.concat([tag, await samples.mp3()]));
  expect(header).toMatchObject({ codec: 'mp3', frames: 44_100 });
});

test('what is longer than a day is refused at once', async () => {
  const source = { size: 8_000 * 90_000, read: async () => new Uint8Array(0) };
  await expect(
    openSound(source, { rateHz: 8_000, channels: 1, encoding: 'u8' }),
  ).rejects.toMatchObject({ code: 'too-large', message: expect.stringContaining('24 hours') });
});
