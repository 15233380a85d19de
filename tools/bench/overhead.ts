import { Encoder } from '@evan/opus/wasm/index.mjs';
import { registerAacEncoder } from '@mediabunny/aac-encoder';
import { OggVorbisDecoder } from '@wasm-audio-decoders/ogg-vorbis';
import { MPEGDecoder } from 'mpg123-decoder';
import { AudioSample, AudioSampleSource, Mp4OutputFormat, NullTarget, Output } from 'mediabunny';
import { createMp3Encoder, createOggEncoder } from 'wasm-media-encoders';
import { MemorySink, memorySource } from '@/core/bytes/source';
import { libFlac } from '@/core/formats/flac/library';
import { openSound } from '@/core/formats/open';
import { writeSound } from '@/core/formats/write';
import { pcmFromChannels, sliceBlock } from '@/core/pcm/pcm';
import { tonesAndNoise } from './signal';
import { timesRealTime, type Table } from './types';

const SECONDS = 30;
const CHUNK = 16_384;
/** The AAC package gets slower with more at a time. */
const AAC_CHUNK = 4_096;
const sound = tonesAndNoise(48_000, SECONDS, 2);

async function encoded(writer: string, settings: object, gridBits?: number): Promise<Uint8Array> {
  const sink = new MemorySink();
  // Samples of a kept depth get no dither.
  const options = gridBits === undefined ? {} : { gridBits };
  await writeSound(pcmFromChannels(sound, 48_000, options), writer, settings, sink);
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
      encoder.ctl(4010, 10); // complexity
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
  [
    'FLAC encode, 16-bit, level 5',
    async () => {
      const flac = await libFlac();
      const encoder = flac.create_libflac_encoder(48_000, 2, 16, 5, 0, false, 0);
      const parts: Uint8Array[] = [];
      flac.init_encoder_stream(encoder, (bytes) => void parts.push(bytes.slice()));
      for (let at = 0; at < sound[0]!.length; at += CHUNK) {
        const block = sliceBlock(sound, at, at + CHUNK);
        const frames = block[0]!.length;
        const samples = new Int32Array(frames * 2);
        for (let i = 0; i < frames; i++) {
          samples[2 * i] = Math.round(block[0]![i]! * 32_767);
          samples[2 * i + 1] = Math.round(block[1]![i]! * 32_767);
        }
        flac.FLAC__stream_encoder_process_interleaved(encoder, samples, frames);
      }
      flac.FLAC__stream_encoder_finish(encoder);
      flac.FLAC__stream_encoder_delete(encoder);
    },
    () => encoded('flac', { bits: 16, level: 5 }, 16),
  ],
  [
    'AAC encode, 128 kbit/s',
    async () => {
      registerAacEncoder();
      const source = new AudioSampleSource({ codec: 'aac', bitrate: 128_000 });
      const drive = new Output({ format: new Mp4OutputFormat(), target: new NullTarget() });
      drive.addAudioTrack(source);
      await drive.start();
      for (let at = 0; at < sound[0]!.length; at += AAC_CHUNK) {
        const block = sliceBlock(sound, at, at + AAC_CHUNK);
        const frames = block[0]!.length;
        const data = new Float32Array(frames * 2);
        block.forEach((channel, c) => data.set(channel, c * frames));
        const sample = new AudioSample({
          data,
          format: 'f32-planar',
          numberOfChannels: 2,
          sampleRate: 48_000,
          timestamp: at / 48_000,
        });
        await source.add(sample);
        sample.close();
      }
      await drive.finalize();
    },
    () => encoded('m4a', { kbps: 128 }),
  ],
];

/** What all threads of this process have worked. */
async function cpuSeconds(work: () => Promise<unknown>): Promise<number> {
  const before = process.cpuUsage();
  await work();
  const { user, system } = process.cpuUsage(before);
  return (user + system) / 1e6;
}

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
      alone = Math.min(alone, await cpuSeconds(bare));
      whole = Math.min(whole, await cpuSeconds(ours));
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
      'our pipeline with containers, delay headers, tags and exact lengths, in processor time of all threads. The ' +
      'conversion to integers that some packages need is in both. The bar is 10 %.',
    columns: ['', 'codec alone', 'ours', 'overhead'],
    rows,
  };
}
