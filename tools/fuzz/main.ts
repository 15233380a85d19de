import { writeFile } from 'node:fs/promises';
import { MemorySink } from '@/core/bytes/source';
import { writeSound } from '@/core/formats/write';
import { pcmFromChannels } from '@/core/pcm/pcm';
import { tonesAndNoise } from '../bench/signal';
import { mutate } from './mutate';
import { surviving } from './survive';

const seeds: [writer: string, settings: object][] = [
  ['wav', { bits: 16 }],
  ['wav', { bits: 32 }],
  ['mp3', { kbps: 96 }],
  ['mp3', { quality: 5 }],
  ['ogg', { quality: 3 }],
  ['m4a', { kbps: 96 }],
];

/** `npm run fuzz [COUNT] [FIRST SEED]`: damages real files and decodes them. What does not survive is written down. */
const [count = 1_000, first = 1] = process.argv.slice(2).map(Number);
let found = 0;
for (const [writer, settings] of seeds) {
  const sink = new MemorySink();
  await writeSound(pcmFromChannels(tonesAndNoise(44_100, 2, 2), 44_100), writer, settings, sink);
  const whole = sink.bytes();
  for (let seed = first; seed < first + count; seed++) {
    const { name, bytes } = mutate(whole, seed);
    const problem = await surviving(bytes);
    if (!problem) continue;
    found++;
    const path = `test-results/fuzz-${writer}-${seed}.bin`;
    await writeFile(path, bytes);
    console.log(`${writer}, seed ${seed} (${name}): ${problem}. Kept as ${path}.`);
  }
  console.log(`${writer} ${JSON.stringify(settings)}: ${count} damaged files decoded`);
}
console.log(found === 0 ? 'All survived.' : `${found} problems found.`);
process.exitCode = found === 0 ? 0 : 1;
