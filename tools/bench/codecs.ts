import { MemorySink, memorySource } from '@/core/bytes/source';
import { openSound } from '@/core/formats/open';
import { writeSound } from '@/core/formats/write';
import { pcmFromChannels } from '@/core/pcm/pcm';
import { tonesAndNoise } from './signal';
import { best, timesRealTime, type Table } from './types';

const SECONDS = 30;
const RATE = 44_100;
const settings: [name: string, writer: string, settings: object][] = [
  ['WAV 16-bit (dithered)', 'wav', { bits: 16 }],
  ['WAV 24-bit (dithered)', 'wav', { bits: 24 }],
  ['WAV 32-bit float', 'wav', { bits: 32 }],
  ['MP3 128 kbit/s', 'mp3', { kbps: 128 }],
  ['MP3 VBR quality 2', 'mp3', { quality: 2 }],
  ['Ogg Vorbis quality 5', 'ogg', { quality: 5 }],
  ['M4A AAC-LC 128 kbit/s', 'm4a', { kbps: 128 }],
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
    note: `${SECONDS} seconds of stereo tones and noise at 44.1 kHz, through our whole pipeline, as multiples of real time.`,
    columns: ['', 'encode', 'decode', 'bytes', 'extra frames'],
    rows,
  };
}
