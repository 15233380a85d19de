import { drawnIcon } from '@/core/pack/icon/draw';
import { heldFile, type FoundPack } from '@/core/host/pack';
import { encode } from '../files';
import { noise } from '../signals';

/** A pack as a test writes it down: what lies where. */
export type Files = Record<string, Uint8Array | string>;

export function bytesOfText(text: string): Uint8Array {
  return new TextEncoder().encode(text);
}

export function packOf(files: Files, name = 'pack.zip'): FoundPack {
  const held = Object.entries(files).map(([path, content]) =>
    heldFile(path, typeof content === 'string' ? bytesOfText(content) : content),
  );
  return { name, form: 'zip', files: held };
}

const made = new Map<string, Promise<Uint8Array>>();

/** A short sound in any format; each is encoded once. */
export function sound(
  writer: string,
  settings: object,
  { rateHz = 44_100, channels = 1, seconds = 0.3 } = {},
): Promise<Uint8Array> {
  const key = JSON.stringify([writer, settings, rateHz, channels, seconds]);
  const frames = Math.round(rateHz * seconds);
  const one = () =>
    encode(
      Array.from({ length: channels }, (_, c) => noise(frames, c + 1, 0.2)),
      rateHz,
      writer,
      settings,
    );
  const known = made.get(key) ?? one();
  made.set(key, known);
  return known;
}

export const vorbis = (shape = {}) => sound('ogg', { quality: 2 }, shape);
export const aac = (shape = {}) => sound('m4a', { kbps: 96 }, shape);

export const descriptor = {
  title: 'Storm',
  edition: 3,
  author: 'Ada',
  icon: 'icon.png',
  calls: 'calls.json',
};

export function callIndex(...calls: [id: string, ...paths: string[]][]): string {
  const list = calls.map(([id, ...paths]) => ({
    id,
    variants: paths.map((path) => ({ path, odds: 1 })),
    levelDb: 0,
    pitch: [1, 1],
    read: 'whole',
  }));
  return JSON.stringify({ calls: list }, null, 2);
}

/** A pack that the mod island takes, with other files in their places, or without those that are null. */
export async function modFiles(
  change: Record<string, Uint8Array | string | null> = {},
): Promise<Files> {
  const ogg = await vorbis();
  const places = ['landing', 'shore', 'house', 'gallery', 'lamp_room'];
  return without({
    'isle.json': JSON.stringify(descriptor),
    'calls.json': callIndex(['gull', 'creatures/gull_1.ogg', 'creatures/gull_2.ogg']),
    'icon.png': drawnIcon('Storm', 64),
    'credits.txt': 'Credits\n',
    'creatures/gull_1.ogg': ogg,
    'creatures/gull_2.ogg': ogg,
    ...Object.fromEntries(places.map((place) => [`places/${place}.ogg`, ogg])),
    ...change,
  });
}

/** The same for the filter stage. */
export async function filterFiles(
  change: Record<string, Uint8Array | string | null> = {},
): Promise<Files> {
  const m4a = await aac();
  return without({ 'bell.m4a': m4a, 'horn of the Skerry.m4a': m4a, ...change });
}

function without(files: Record<string, Uint8Array | string | null>): Files {
  return Object.fromEntries(
    Object.entries(files).filter((entry): entry is [string, Uint8Array | string] => {
      return entry[1] !== null;
    }),
  );
}
