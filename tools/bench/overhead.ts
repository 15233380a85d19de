import { Encoder } from '@evan/opus/wasm/index.mjs';
import { OggVorbisDecoder } from '@wasm-audio-decoders/ogg-vorbis';
import { MPEGDecoder } from 'mpg123-decoder';
import { createMp3Encoder, createOggEncoder } from 'wasm-media-encoders';
import { MemorySink, memorySource } from '@/core/bytes/source';
import { openSound } from '@/core/formats/open';
import { writeSound } from '@/core/formats/write';
import { pcmFromChannels, sliceBlock } from '@/core/pcm/pcm';
import { tonesAndNoise } from './signal';
import { best, timesRealTime, type Table } from './types';

const SECONDS = 30;
const CHUNK = 16_384;
const sound = tonesAndNoise(48_000, SECONDS, 2);

async function encoded(writer: string, settings: object): Promise<Uint8Array> {
  const sink = new MemorySink();
  await writeSound(pcmFromChannels(sound, 48_000), writer, settings, sink);
  return sink.bytes();
}

async function decoded(bytes: Uint8Array): Promise<void> {
  for await (const block of (await openSound(memorySource(bytes))).pcm().blocks) void block;
}

type PackageEncoder = Awaited<ReturnType<typeof createMp3Encoder | typeof createOggEncoder>>;

function pour(encoder: PackageEncoder): void {
  for (let at = 0; at < sound[0]!.length; at += CHUNK) {
    encoder.encode(sliceBlock(sound, at, at + CHUNK) as Float32Array[]);
  }
  encoder.finalize();
}

/** The codec alone, on data that lies ready, and the same through our whole pipeline. */
const pairs: [name: string, bare: () => Promise<void>, ours: () => Promise<unknown>][] = [
  [
    'Vorbis encode, quality 5',
    async () => {
      const encoder = await createOggEncoder();
      encoder.configure({ channels: 2, sampleRate: 48_000, vbrQuality: 5 });
      pour(encoder);
    },
    () => encoded('ogg', { quality: 5 }),
  ],
  [
    'MP3 encode, 128 kbit/s',
    async () => {
      const encoder = await createMp3Encoder();
      encoder.configure({
        channels: 2,
        sampleRate: 48_000,
        outputSampleRate: 48_000,
        bitrate: 128,
      });
      pour(encoder);
    },
    () => encoded('mp3', { kbps: 128 }),
  ],
  [
    'Opus encode, 96 kbit/s',
    async () => {
      const encoder = new Encoder({ channels: 2, sample_rate: 48_000, application: 'audio' });
      encoder.ctl(4002, 96_000); // bit rate
      const samples = new Int16Array(960 * 2);
      for (let at = 0; at + 960 <= sound[0]!.length; at += 960) {
        for (let i = 0; i < 960; i++) {
          samples[2 * i] = sound[0]![at + i]! * 32_767;
          samples[2 * i + 1] = sound[1]![at + i]! * 32_767;
        }
        encoder.encode(samples);
      }
      encoder.drop();
    },
    () => encoded('ogg-opus', { kbps: 96 }),
  ],
];

export async function overheadTable(): Promise<Table> {
  const [ogg, mp3] = [await encoded('ogg', { quality: 5 }), await encoded('mp3', { kbps: 128 })];
  const rows: Table['rows'] = [];
  const all: typeof pairs = [
    ...pairs,
    [
      'Vorbis decode',
      async () => {
        const decoder = new OggVorbisDecoder();
        await decoder.ready;
        await decoder.decodeFile(ogg);
        decoder.free();
      },
      () => decoded(ogg),
    ],
    [
      'MP3 decode',
      async () => {
        const decoder = new MPEGDecoder({ enableGapless: false });
        await decoder.ready;
        decoder.decode(mp3);
        decoder.free();
      },
      () => decoded(mp3),
    ],
  ];
  for (const [name, bare, ours] of all) {
    // In turns, so that both meet the same noise of the machine.
    let [alone, whole] = [Infinity, Infinity];
    for (let turn = 0; turn < 9; turn++) {
      alone = Math.min(alone, await best(bare, 1));
      whole = Math.min(whole, await best(ours, 1));
    }
    const more = (whole / alone - 1) * 100;
    rows.push([
      name,
      timesRealTime(SECONDS, alone),
      timesRealTime(SECONDS, whole),
      `${more.toFixed(0).replace('-', '−')} %`,
    ]);
  }
  return {
    title: 'Overhead around the codecs',
    note:
      `The codec's package alone on ${SECONDS} seconds of stereo that lie ready in memory, and the same through ` +
      'our pipeline with containers, delay headers, tags and exact lengths. The aim is less than 15 %.',
    columns: ['', 'codec alone', 'ours', 'overhead'],
    rows,
  };
}
