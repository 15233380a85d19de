import { MemorySink } from '@/core/bytes/source';
import { writeSound } from '@/core/formats/write';
import { pcmFromChannels } from '@/core/pcm/pcm';
import { tonesAndNoise } from '../bench/signal';
import { aacPackets, adtsFile, heAacFile } from '../made/aac';
import { alacFile } from '../made/alac';
import { layerTwo } from '../made/layerTwo';
import { rf64Of } from '../made/rf64';
import { webmOf } from '../made/webmVorbis';

const RATE = 48_000;

async function written(writer: string, settings: object, rateHz = RATE): Promise<Uint8Array> {
  const sink = new MemorySink();
  const sound = pcmFromChannels(tonesAndNoise(rateHz, 1, 2), rateHz);
  const marks = {
    tags: { title: 'Storm', comment: 'from the gallery' },
    loop: { startFrame: 100, endFrame: 5_000 },
    markers: [{ frame: 7, name: 'gust' }],
  };
  await writeSound(sound, writer, settings, sink, marks);
  return sink.bytes();
}

const aac = () => aacPackets(tonesAndNoise(24_000, 1, 1), 24_000);

/** A real file of every readable kind, for damage. */
export const fuzzSeeds: Readonly<Record<string, () => Promise<Uint8Array>>> = {
  'wav 16': () => written('wav', { bits: 16 }),
  'wav float': () => written('wav', { bits: 32 }),
  'wav ima': () => written('wav-ima-adpcm', {}),
  rf64: async () => rf64Of(await written('wav', { bits: 16 })),
  aiff: () => written('aiff', { bits: 24 }),
  flac: () => written('flac', { bits: 16 }),
  'flac of an odd rate': () => written('flac', { bits: 16 }, 88_201),
  'mp3 cbr': () => written('mp3', { kbps: 96 }),
  'mp3 vbr': () => written('mp3', { quality: 5 }),
  'mp3 low': () => written('mp3', { kbps: 24 }, 11_025),
  'layer ii': async () => layerTwo(30, 3),
  vorbis: () => written('ogg', { quality: 3 }),
  'ogg opus': () => written('ogg-opus', { kbps: 48 }),
  'webm opus': () => written('webm', { kbps: 48 }),
  'webm vorbis': async () => webmOf(await written('ogg', { quality: 3 })),
  'm4a aac': () => written('m4a', { kbps: 96 }),
  'm4a he-aac': async () => heAacFile((await aac()).packets, 24_000, 1),
  'm4a alac': async () =>
    alacFile(
      tonesAndNoise(RATE, 1, 2).map((x) => Int16Array.from(x, (v) => v * 32_767)),
      RATE,
    ),
  adts: async () => adtsFile((await aac()).packets, 24_000, 1),
  'c array': () => written('c', { encoding: 'u8' }, 8_000),
};
