import type { Page } from '@playwright/test';
import { zipSync } from 'fflate';
import { MemorySink } from '@/core/bytes/source';
import { writeSound } from '@/core/formats/write';
import type { Marks } from '@/core/marks';
import { drawnIcon } from '@/core/pack/icon/draw';
import { pcmFromChannels } from '@/core/pcm/pcm';

export const RATE = 44_100;

/** A sound as a test wants it, in any format. */
async function encoded(
  samples: Float32Array,
  writer: string,
  settings: object,
  marks?: Marks,
): Promise<Uint8Array> {
  const sink = new MemorySink();
  await writeSound(pcmFromChannels([samples], RATE), writer, settings, sink, marks);
  return sink.bytes();
}

export const m4a = (samples: Float32Array) => encoded(samples, 'm4a', { kbps: 128 });
export const ogg = (samples: Float32Array, marks?: Marks) =>
  encoded(samples, 'ogg', { quality: 6 }, marks);

export function tone(hz: number, seconds: number, amplitude = 0.4): Float32Array {
  return Float32Array.from(
    { length: Math.round(seconds * RATE) },
    (_, i) => amplitude * Math.sin((2 * Math.PI * hz * i) / RATE),
  );
}

const bytesOf = (text: string) => new TextEncoder().encode(text);

/** A zip that the mod island takes, with other files in their places. */
export async function modZip(change: Record<string, Uint8Array | string> = {}): Promise<Buffer> {
  const short = await ogg(tone(440, 0.3));
  const places = ['landing', 'shore', 'house', 'gallery', 'lamp_room'];
  const calls = ['gull', 'horn'].map((id) => ({
    id,
    variants: [1, 3].map((odds) => ({ path: `${id}_${odds}.ogg`, odds })),
    levelDb: 0,
    pitch: [1, 1],
    read: 'whole',
  }));
  return zipped({
    'isle.json': JSON.stringify({
      ...{ title: 'Storm', edition: 3, author: 'Ada' },
      ...{ icon: 'icon.png', calls: 'calls.json' },
    }),
    'calls.json': JSON.stringify({ calls }),
    'icon.png': drawnIcon('Storm', 64),
    ...Object.fromEntries(['gull_1', 'gull_3', 'horn_1', 'horn_3'].map((n) => [`${n}.ogg`, short])),
    ...Object.fromEntries(places.map((place) => [`places/${place}.ogg`, short])),
    ...change,
  });
}

export function zipped(files: Record<string, Uint8Array | string>): Buffer {
  const all = Object.entries(files).map(([path, content]) => [
    path,
    typeof content === 'string' ? bytesOf(content) : content,
  ]);
  return Buffer.from(zipSync(Object.fromEntries(all) as Record<string, Uint8Array>, { level: 0 }));
}

/** Brings a zip to the host that is open. */
export async function bring(page: Page, zip: Buffer, name = 'storm.zip'): Promise<void> {
  await page
    .getByLabel('A zip for the host')
    .setInputFiles({ name, mimeType: 'application/zip', buffer: zip });
}

export const verdict = (page: Page) => page.getByText(/^(Accepted: |Refused for )/);
export const checked = (page: Page) => page.getByRole('region', { name: 'What it checked' });
export const log = (page: Page) => page.getByRole('region', { name: 'Log' });

/** Until something comes out of the host, or nothing does any more. It looks at every picture: sounds are short. */
export async function expectHeard(page: Page, isHeard: boolean): Promise<void> {
  await page.waitForFunction((isHeard) => {
    const strip = document.querySelector('[aria-label=Listening]');
    const peak = Number(strip?.getAttribute('data-peak'));
    return isHeard ? peak > 0.02 : peak < 0.001;
  }, isHeard);
}

/** How many frames a recorded page has heard since the first that was not silent. */
export function framesHeard(page: Page): Promise<number> {
  return page.evaluate(() => {
    const { recorded } = window as unknown as { recorded: Float32Array[][] };
    const first = recorded.findIndex(([block]) => block!.some((x) => x !== 0));
    return first < 0 ? 0 : recorded.slice(first).reduce((sum, [block]) => sum + block!.length, 0);
  });
}
