import { MemorySink } from '@/core/bytes/source';
import { writeSound } from '@/core/formats/write';
import { pcmFromChannels } from '@/core/pcm/pcm';
import { noiseSource } from '@/core/dsp/noise';
import { level } from '../synth';
import { flaws, type Flaw } from './flaws';
import { voices } from './voices';

/** A file of the island: the same number makes the same bytes. */
export interface IslandFile {
  /** With its folders. */
  path: string;
  bytes: Uint8Array;
  /** Code of the worry that it must raise; null for a file without a flaw. */
  worry: string | null;
}

const places = ['near', 'far', 'below', 'above', 'behind the door', 'on the gallery'];
const rates = [44_100, 48_000, 44_100, 22_050];

/** How files are stored: mostly WAV, some packed. */
const stores: { ending: string; writer: string; settings: object }[] = [
  { ending: 'wav', writer: 'wav', settings: { bits: 16 } },
  { ending: 'wav', writer: 'wav', settings: { bits: 24 } },
  { ending: 'wav', writer: 'wav', settings: { bits: 16 } },
  { ending: 'ogg', writer: 'ogg', settings: { quality: 5 } },
  { ending: 'wav', writer: 'wav', settings: { bits: 16 } },
  { ending: 'flac', writer: 'flac', settings: { bits: 16 } },
  { ending: 'mp3', writer: 'mp3', settings: { kbps: 128 } },
];
const plain = stores[0]!;
const disguised = stores.at(-1)!;

/** One file in so many has a flaw, and one in so many is long. */
const FLAWED = 6;
const LONG = 101;
/** Every microphone has some; below what counts as sounding. */
const HISS = 0.000_9;

/**
 * A file of the sound archive of the whole island, of which there are as many as one asks for: short takes
 * in eight folders, a few long ones, some with a flaw.
 */
export async function islandFile(number: number): Promise<IslandFile> {
  const random = noiseSource(number * 7_919 + 1);
  // The first values of neighbouring seeds are alike.
  for (let i = 0; i < 8; i++) random();
  const draw = (least: number, most: number) => least + ((random() + 1) / 2) * (most - least);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(draw(0, list.length - 1e-9))]!;
  const flaw: Flaw | null = number % FLAWED === 0 ? flaws[(number / FLAWED) % flaws.length]! : null;
  const voice = pick(voices);
  const [rateHz, place] = [pick(rates), pick(places)];
  const seconds = number % LONG === 50 ? draw(20, 60) : draw(0.25, 1.8);
  const take = () => voice.make(seconds, rateHz, draw, number * 31 + 7);
  const dry = draw(0, 1) < 0.7 ? [take()] : [take(), take()];
  const loud = level(dry, draw(-14, -2)).map((c) => c.map((x) => x + HISS * random()));
  const channels = flaw?.spoil?.(loud, rateHz) ?? loud;
  const store = flaw ? (flaw.lies ? disguised : plain) : pick(stores);
  const sink = new MemorySink();
  const pcm = flaw?.bits
    ? pcmFromChannels(
        channels.map((c) => c.map(toSixteenBits)),
        rateHz,
        { gridBits: 16 },
      )
    : pcmFromChannels(channels, rateHz);
  const settings = flaw?.bits ? { bits: flaw.bits } : store.settings;
  await writeSound(pcm, store.writer, settings, sink);
  const ending = flaw?.lies ? plain.ending : store.ending;
  const name = `${voice.name} ${String(number).padStart(4, '0')} ${place}.${ending}`;
  return { path: `${voice.folder}/${name}`, bytes: sink.bytes(), worry: flaw?.worry ?? null };
}

function toSixteenBits(x: number): number {
  return Math.round(x * 32_768) / 32_768;
}
