import { MemorySink, memorySource } from '@/core/bytes/source';
import { openSound } from '@/core/formats/open';
import { writeSound } from '@/core/formats/write';
import { pcmFromChannels } from '@/core/pcm/pcm';
import { tonesAndNoise } from './signal';
import { best, timesRealTime, type Table } from './types';

const SECONDS = 30;
/** The one rate at which every codec is legal. */
const RATE = 48_000;
const settings: [name: string, writer: string, settings: object][] = [
  ['WAV 8-bit (dithered)', 'wav', { bits: 8 }],
  ['WAV 16-bit (dithered)', 'wav', { bits: 16 }],
  ['WAV 24-bit (dithered)', 'wav', { bits: 24 }],
  ['WAV 32-bit float', 'wav', { bits: 32 }],
  ['WAV IMA ADPCM', 'wav-ima-adpcm', {}],
  ['AIFF 24-bit (dithered)', 'aiff', { bits: 24 }],
  ['FLAC 16-bit, level 0', 'flac', { bits: 16, level: 0 }],
  ['FLAC 16-bit, level 5', 'flac', { bits: 16, level: 5 }],
  ['FLAC 24-bit, level 8', 'flac', { bits: 24, level: 8 }],
  ['MP3 128 kbit/s', 'mp3', { kbps: 128 }],
  ['MP3 VBR quality 2', 'mp3', { quality: 2 }],
  ['Ogg Vorbis quality 5', 'ogg', { quality: 5 }],
  ['Ogg Opus 96 kbit/s', 'ogg-opus', { kbps: 96 }],
  ['WebM Opus 96 kbit/s', 'webm', { kbps: 96 }],
  ['M4A AAC-LC 128 kbit/s', 'm4a', { kbps: 128 }],
  ['C array, 8-bit', 'c', { encoding: 'u8' }],
];

export async function codecTable(): Promise<Table> {
  const sound = tonesAndNoise(RATE, SECONDS, 2);
  const rows: (string | number)[][] = [];
  for (const [name, writer, options] of settings) {
    let bytes: Uint8Array = new Uint8Array();
    const encoding = await best(async () => {
      const sink = new MemorySink();
      await writeSound(pcmFromChannels(sound, RATE), writer, options, sink);
      bytes = sink.bytes();
    });
    let frames = 0;
    const decoding = await best(async () => {
      frames = 0;
      const reader = await openSound(memorySource(bytes));
      for await (const block of reader.pcm().blocks) frames += block[0]!.length;
    });
    rows.push([
      name,
      timesRealTime(SECONDS, encoding),
      timesRealTime(SECONDS, decoding),
      bytes.length.toLocaleString('en'),
      frames - SECONDS * RATE,
    ]);
  }
  return {
    title: 'Codecs',
    note: `${SECONDS} seconds of stereo tones and noise at 48 kHz, through our whole pipeline, as multiples of real time.`,
    columns: ['', 'encode', 'decode', 'bytes', 'extra frames'],
    rows,
  };
}
