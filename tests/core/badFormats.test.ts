import { ByteWriter, joinBytes } from '@/core/formats/bits';
import { writeExtended } from '@/core/formats/aiff/extended';
import { element, ID, text, uint } from '@/core/formats/webm/ebml';
import { alacFile } from '../../tools/made/alac';
import { aacPackets, adtsFile } from '../../tools/made/aac';
import { encode, decode, refusal, samples } from './files';
import { sine } from './signals';

/** Every way in which a file can be bad gets its own error, with the place where that helps. */

const changed = (bytes: Uint8Array, at: number, ...values: number[]) => {
  const copy = bytes.slice();
  copy.set(values, at);
  return copy;
};
const placeOf = (bytes: Uint8Array, mark: string) => Buffer.from(bytes).indexOf(mark);
const opus = () => encode([sine(48_000, 440, 144_000)], 48_000, 'ogg-opus', {});
const webm = () => encode([sine(48_000, 440, 9_000)], 48_000, 'webm', {});
const ima = () => encode([sine(48_000, 440, 9_000)], 48_000, 'wav-ima-adpcm', {});
const array = () => encode([sine(8_000, 440, 900)], 8_000, 'c', { encoding: 'u8' });
const alac = () => alacFile([new Int16Array(5_000).fill(7)], 44_100);

/** A file with one track and nothing in it. */
function withTrack(docType: string, kind: number, codec: string): Uint8Array {
  const entry = [uint(ID.trackNumber, 1), uint(ID.trackType, kind), text(ID.codecId, codec)];
  return joinBytes(
    element(ID.ebml, text(ID.docType, docType)),
    element(ID.segment, element(ID.tracks, element(ID.trackEntry, ...entry))),
  );
}

interface Bad {
  what: string;
  make: () => Promise<Uint8Array> | Uint8Array;
  code: string;
  says: RegExp;
  byteOffset?: number;
}

const bad: Bad[] = [
  {
    what: 'WAV with samples of 12 bits',
    make: async () => changed(await samples.wav(), 34, 12),
    code: 'unknown-codec',
    says: /samples of 12 bits/,
    byteOffset: 34,
  },
  {
    what: 'WAV without a format chunk',
    make: async () => changed(await samples.wav(), 12, ...Buffer.from('junk')),
    code: 'damaged-header',
    says: /no format chunk before/,
    byteOffset: 36,
  },
  {
    what: 'IMA ADPCM whose blocks hold another number of frames',
    make: async () => changed(await ima(), 38, 1, 0),
    code: 'damaged-header',
    says: /contradicts itself/,
    byteOffset: 32,
  },
  {
    what: 'AIFF with a codec that nobody knows',
    make: () => {
      const comm = new ByteWriter().text('COMM').u32be(24).u16be(1).u32be(5).u16be(16);
      comm.raw(writeExtended(44_100)).text('QDMC').u16be(0);
      return joinBytes(
        new ByteWriter().text('FORM').u32be(0).text('AIFC').bytes(),
        comm.bytes(),
        new ByteWriter().text('SSND').u32be(18).u32be(0).u32be(0).raw(new Uint8Array(10)).bytes(),
      );
    },
    code: 'unknown-codec',
    says: /"QDMC"/,
  },
  {
    what: 'AIFF without a common chunk',
    make: () => new ByteWriter().text('FORM').u32be(4).text('AIFF').bytes(),
    code: 'damaged-header',
    says: /no common chunk/,
  },
  {
    what: 'AIFF that ends before its sound',
    make: async () => (await samples.aiff()).subarray(0, 38),
    code: 'damaged-header',
    says: /ends before its sound/,
  },
  {
    what: 'FLAC that ends in its header',
    make: async () => (await samples.flac()).subarray(0, 20),
    code: 'damaged-header',
    says: /too short/,
    byteOffset: 8,
  },
  {
    what: 'FLAC whose first block is another',
    make: async () => changed(await samples.flac(), 4, 4),
    code: 'damaged-header',
    says: /does not begin with its stream facts/,
  },
  {
    what: 'FLAC without a frame of sound',
    make: async () => {
      const flac = await samples.flac();
      const comment = new DataView(flac.buffer, flac.byteOffset).getUint32(42) & 0xffffff;
      return flac.subarray(0, 46 + comment);
    },
    code: 'no-sound',
    says: /zero frames/,
  },
  {
    what: 'Opus with no channels',
    make: async () => {
      const bytes = await opus();
      return changed(bytes, placeOf(bytes, 'OpusHead') + 9, 0);
    },
    code: 'damaged-header',
    says: /0 channels/,
    byteOffset: 37,
  },
  {
    what: 'Opus without named speakers',
    make: async () => {
      const bytes = await opus();
      return changed(bytes, placeOf(bytes, 'OpusHead') + 18, 255);
    },
    code: 'unknown-codec',
    says: /without named speakers/,
  },
  {
    what: 'Opus of a later kind',
    make: async () => {
      const bytes = await opus();
      return changed(bytes, placeOf(bytes, 'OpusHead') + 8, 16);
    },
    code: 'damaged-header',
    says: /later kind/,
  },
  {
    what: 'Ogg whose first page is cut',
    make: async () => (await samples.ogg()).subarray(0, 40),
    code: 'damaged-header',
    says: /first Ogg page/,
    byteOffset: 0,
  },
  {
    what: 'WebM without tracks',
    make: () => joinBytes(element(ID.ebml, text(ID.docType, 'webm')), element(ID.segment)),
    code: 'damaged-header',
    says: /no list of tracks/,
  },
  {
    what: 'WebM with pictures only',
    make: () => withTrack('webm', 1, 'V_VP9'),
    code: 'no-sound',
    says: /no sound in it/,
  },
  {
    what: 'Matroska with another codec',
    make: () => withTrack('matroska', 2, 'A_TRUEHD'),
    code: 'unknown-codec',
    says: /TRUEHD/,
  },
  {
    what: 'WebM whose sound was cut away',
    make: async () => {
      const bytes = await webm();
      return bytes.subarray(0, Buffer.from(bytes).indexOf(Buffer.from([0x1f, 0x43, 0xb6, 0x75])));
    },
    code: 'no-sound',
    says: /zero frames/,
  },
  {
    what: 'ALAC with packets of four thousand million frames',
    make: () => {
      const bytes = alac();
      return changed(bytes, placeOf(bytes, 'alac') + 8 + 28 + 12, 0xff, 0xff, 0xff, 0xff);
    },
    code: 'damaged-header',
    says: /ALAC header says/,
  },
  {
    what: 'MP4 whose index does not say where the sound lies',
    make: () => {
      const bytes = alac();
      return changed(bytes, placeOf(bytes, 'stsz'), ...Buffer.from('free'));
    },
    code: 'damaged-header',
    says: /where its sound lies/,
  },
  {
    what: 'a C array with numbers that do not fit',
    make: async () => {
      const lines = Buffer.from(await array())
        .toString()
        .replace(/\{\n {2}\d+,/, '{\n  9999,');
      return Buffer.from(lines);
    },
    code: 'damaged-sound',
    says: /none of the sound/,
  },
  {
    what: 'a C array without a length',
    make: async () =>
      Buffer.from(
        Buffer.from(await array())
          .toString()
          .replace(/_frames \d+/, '_frames 0'),
      ),
    code: 'no-sound',
    says: /zero frames/,
  },
  {
    what: 'a tag with nothing behind',
    make: () => joinBytes(Buffer.from('ID3\x03\x00\x00\x00\x00\x00\x05'), new Uint8Array(5)),
    code: 'no-sound',
    says: /MP3/,
  },
];

test.each(bad.map((one) => [one.what, one] as const))('%s', async (_, one) => {
  const error = await refusal(await one.make());
  expect(error.code).toBe(one.code);
  expect(error.message).toMatch(one.says);
  expect(error.message).toMatch(/\.$/);
  expect(error.hint).toMatch(/\.$/);
  if (one.byteOffset !== undefined) expect(error.byteOffset).toBe(one.byteOffset);
});

describe('what can still be decoded is kept, and said', () => {
  test.each([
    ['aiff', 'truncated'],
    ['flac', 'truncated'],
  ] as const)('%s cut in the middle', async (kind, code) => {
    const bytes = await samples[kind]();
    const { channels, warnings } = await decode(bytes.subarray(0, Math.floor(bytes.length * 0.6)));
    expect(channels[0]!.length).toBeGreaterThan(10_000);
    expect(channels[0]!.length).toBeLessThan(44_100);
    expect(warnings.map((warning) => warning.code)).toContain(code);
  });

  test.each([
    ['Ogg Opus', opus],
    ['WebM', webm],
  ])('%s cut in the middle', async (_, make) => {
    const bytes = await make();
    const { channels, warnings } = await decode(bytes.subarray(0, bytes.length - 200));
    expect(channels[0]!.length).toBeGreaterThan(0);
    expect(warnings.map(({ code }) => code)).toContain('truncated');
  });

  test('a bit of FLAC that fell over is found by its checksums', async () => {
    const bytes = (await samples.flac()).slice();
    bytes[bytes.length - 3_000]! ^= 4;
    const { warnings } = await decode(bytes);
    expect(warnings.length).toBeGreaterThan(0);
    expect(['damaged-frames', 'checksum', 'truncated']).toContain(warnings[0]!.code);
  });

  test('an Opus packet that breaks the rules becomes silence of its length', async () => {
    const bytes = (
      await encode([sine(48_000, 440, 96_000)], 48_000, 'ogg-opus', { kbps: 64 })
    ).slice();
    const whole = await decode(bytes);
    // The first packet of the second page of sound: its kind says three frames, and no sizes follow.
    const page = Buffer.from(bytes).indexOf('OggS', 2_000);
    bytes[page + 27 + bytes[page + 26]!] = 0xff;
    bytes[page + 28 + bytes[page + 26]!] = 0x3f;
    const { channels, warnings } = await decode(bytes);
    expect(warnings.map(({ code }) => code)).toEqual(['damaged-frames']);
    expect(channels[0]!.length).toBe(whole.channels[0]!.length);
  });

  test('rubbish between AAC packets is passed over', async () => {
    const { packets } = await aacPackets([sine(44_100, 440, 20_000)], 44_100);
    const bytes = adtsFile(packets, 44_100, 1);
    const clean = await decode(bytes);
    const second = packets.slice(0, 3).reduce((sum, packet) => sum + packet.length + 7, 0);
    const dirty = await decode(
      joinBytes(bytes.subarray(0, second), Uint8Array.of(1, 2, 3), bytes.subarray(second)),
    );
    expect(dirty.channels).toEqual(clean.channels);
  });
});
