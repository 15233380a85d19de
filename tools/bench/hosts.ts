import { zipSync } from 'fflate';
import { MemorySink, memorySource } from '@/core/bytes/source';
import { writeSound } from '@/core/formats/write';
import { hosts } from '@/core/host';
import { rehearseZip } from '@/core/host/rehearse';
import { drawnIcon } from '@/core/pack/icon/draw';
import { pcmFromChannels } from '@/core/pcm/pcm';
import { tonesAndNoise } from './signal';
import type { Table } from './types';

const SOUNDS = 200;
const RATE = 44_100;
const SECONDS = 2;
const RUNS = 5;

async function sound(writer: string, settings: object): Promise<Uint8Array> {
  const sink = new MemorySink();
  const [channel] = tonesAndNoise(RATE, SECONDS, 1);
  await writeSound(pcmFromChannels([channel!], RATE), writer, settings, sink);
  return sink.bytes();
}

const text = (value: object) => new TextEncoder().encode(JSON.stringify(value));

/** A pack of each host with many sounds. */
async function packs(): Promise<Record<string, Uint8Array>> {
  const [ogg, m4a] = [await sound('ogg', { quality: 5 }), await sound('m4a', { kbps: 96 })];
  const many = (ending: string, bytes: Uint8Array) =>
    Object.fromEntries(Array.from({ length: SOUNDS }, (_, i) => [`sound_${i}.${ending}`, bytes]));
  const places = ['landing', 'shore', 'house', 'gallery', 'lamp_room'];
  const calls = Array.from({ length: SOUNDS }, (_, i) => ({
    id: `call_${i}`,
    variants: [{ path: `sound_${i}.ogg`, odds: 1 }],
  }));
  const mod = {
    'isle.json': text({
      title: 'Bench',
      edition: 3,
      author: 'x',
      icon: 'icon.png',
      calls: 'calls.json',
    }),
    'calls.json': text({ calls }),
    'icon.png': drawnIcon('Bench', 128),
    ...Object.fromEntries(places.map((place) => [`places/${place}.ogg`, ogg])),
    ...many('ogg', ogg),
  };
  return {
    mod: zipSync(mod, { level: 0 }),
    filter: zipSync(many('m4a', m4a), { level: 0 }),
  };
}

/** How long hosts take to look at a pack. */
export async function hostsTable(): Promise<Table> {
  const all = await packs();
  const rows: (string | number)[][] = [];
  for (const host of hosts) {
    const zip = all[host.id]!;
    const times: number[] = [];
    let accepted = false;
    for (let run = 0; run < RUNS; run++) {
      const began = performance.now();
      ({ accepted } = await rehearseZip(host, 'bench.zip', memorySource(zip)));
      times.push(performance.now() - began);
    }
    times.sort((a, b) => a - b);
    rows.push([
      host.title,
      accepted ? 'accepted' : 'refused',
      `${(zip.length / 1e6).toFixed(1)} MB`,
      `${times[RUNS >> 1]!.toFixed(0)} ms`,
      `${times.at(-1)!.toFixed(0)} ms`,
    ]);
  }
  return {
    title: 'Hosts',
    note: `A zip of ${SOUNDS} sounds of ${SECONDS} s brought to a host: unpacked, every file looked at to its last byte. Middle and worst of ${RUNS}.`,
    columns: ['host', 'it is', 'zip', 'looked at in', 'worst'],
    rows,
  };
}
