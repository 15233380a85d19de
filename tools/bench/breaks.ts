import { readdir, readFile } from 'node:fs/promises';
import { extname, join } from 'node:path';
import { MemorySink, memorySource } from '@/core/bytes/source';
import { convert } from '@/core/convert';
import { writerById, writeSound } from '@/core/formats/write';
import { pcmFromChannels } from '@/core/pcm/pcm';
import type { Step } from '@/core/recipe/types';
import { breaksInside, brokenStarts } from '../answers/breaks';
import { ownDecoder } from '../answers/judge';
import { demoSounds } from '../demo/sounds';
import { ForeignDecoders } from '../legality/foreign';
import type { Table } from './types';

const forms: readonly (readonly [writer: string, settings: object, rateHz: number])[] = [
  ['mp3', { kbps: 128 }, 44_100],
  ['mp3', { quality: 2 }, 44_100],
  ['m4a', { kbps: 64 }, 44_100],
  ['m4a', { kbps: 128 }, 44_100],
  ['ogg', { quality: 4 }, 44_100],
  ['ogg-opus', { kbps: 96 }, 48_000],
];
const LONGEST_SECONDS = 10;
const SILENCE = 8_192;

/**
 * Where codecs break sounds: those of the demo, or every sound up to ten seconds in the folder that `SOUNDS` names
 * and below it.
 */
export async function breaksTable(): Promise<Table> {
  const decoders = await ForeignDecoders.open();
  const rows: (string | number)[][] = [];
  try {
    for (const [writer, settings, rateHz] of forms) {
      const { container, codec } = writerById(writer);
      const comesOut = async (wav: Uint8Array, steps: Step[]) => {
        const sink = new MemorySink();
        await convert(memorySource(wav), { recipe: { version: 1, steps }, writer, settings }, sink);
        // Of a few frames of Vorbis Chromium makes nothing.
        const foreign = await decoders
          .decode(container, codec, sink.bytes(), rateHz)
          .catch(() => null);
        return foreign ?? (await ownDecoder(container, codec, sink.bytes(), rateHz))!;
      };
      let [sounds, worse, better, insides] = [0, 0, 0, 0];
      for await (const bytes of soundFiles()) {
        const wav = await at(rateHz, bytes);
        if (!wav) continue;
        const sound = (await ownDecoder('wav', 'pcm', wav, rateHz))!;
        const decoded = await comesOut(wav, []);
        // Chromium leaves out the end of some Vorbis files.
        const heard = sound.map((channel, c) => channel.subarray(0, decoded[c]!.length));
        const later = await comesOut(wav, [
          { kind: 'pad', on: true, params: { headFrames: SILENCE, tailFrames: 0 } },
        ]);
        const behind = later.map((channel) => channel.subarray(SILENCE));
        sounds++;
        if (brokenStarts(heard, decoded, behind).length > 0) worse++;
        if (brokenStarts(heard, behind, decoded).length > 0) better++;
        if (breaksInside(heard, decoded).length > 0) insides++;
      }
      rows.push([
        writerById(writer).name,
        JSON.stringify(settings),
        sounds,
        worse,
        better,
        insides,
      ]);
    }
  } finally {
    await decoders.close();
  }
  return {
    title: 'Breaks',
    note:
      'Sounds up to 10 s: how many begin worse than behind 8,192 frames of silence (128 frames whose error is above ' +
      '−20 dB of the sound around, by 8 dB), how many begin better by as much (as many: it is how a sound lies among ' +
      'blocks that decides), and how many have 128 frames anywhere whose error is as loud as the sound, ' +
      'decoded by Chromium. Noise that a codec puts in the place of noise counts as the latter.',
    columns: [
      'format',
      'settings',
      'sounds',
      'begin worse',
      'begin better',
      'as loud an error anywhere',
    ],
    rows,
  };
}

async function* soundFiles(): AsyncGenerator<Uint8Array> {
  const folder = process.env['SOUNDS'];
  if (folder === undefined) {
    for (const { make, rateHz } of demoSounds) {
      const sink = new MemorySink();
      await writeSound(pcmFromChannels(make(rateHz), rateHz), 'wav', { bits: 32 }, sink);
      yield sink.bytes();
    }
    return;
  }
  for (const name of (await readdir(folder, { recursive: true })).sort()) {
    if (['.wav', '.ogg', '.flac'].includes(extname(name))) yield readFile(join(folder, name));
  }
}

/** The sound as WAV at a rate; null where it is too long or has more than two channels. */
async function at(rateHz: number, bytes: Uint8Array): Promise<Uint8Array | null> {
  const sink = new MemorySink();
  const { expected } = await convert(
    memorySource(bytes),
    {
      recipe: { version: 1, steps: [{ kind: 'resample', on: true, params: { rateHz } }] },
      writer: 'wav',
      settings: { bits: 32 },
    },
    sink,
  );
  const isShort = expected.frames <= LONGEST_SECONDS * rateHz && expected.channelCount <= 2;
  return isShort ? sink.bytes() : null;
}
