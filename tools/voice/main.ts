import { readFile, writeFile } from 'node:fs/promises';
import { memorySource } from '@/core/bytes/source';
import { openSound } from '@/core/formats/open';
import { VoiceMeter } from '@/core/measure/voice/meter';
import { fitted, type Example } from './fit';
import { judged } from './judge';

/**
 * `npm run voice LIST.json [MODEL.json]`: learns from recordings what a voice at half and at twice its speed is like. The
 * list holds groups (a speaker, or a place where they were recorded) as `{ "name", "family", "isVoice", "files" }`, all
 * of them labelled right. Every family is judged by what the others taught; then the model of all is written.
 */
interface Group {
  name: string;
  family: string;
  isVoice: boolean;
  files: string[];
}

const FACTORS = [0.5, 1, 2];
const [listPath, modelPath] = process.argv.slice(2);
if (listPath === undefined) throw new Error('Say which list of recordings to learn from.');
const groups = JSON.parse(await readFile(listPath, 'utf8')) as Group[];

const examples: Example[] = [];
for (const { name, family, isVoice, files } of groups) {
  for (const file of files) {
    const meter = await heard(file);
    for (const factor of FACTORS) {
      const traits = meter.read(factor);
      if (traits) examples.push({ file, group: name, family, isVoice, factor, traits });
    }
  }
  console.log(`${name}: ${files.length} files, ${examples.length} readings so far`);
}
for (const line of judged(examples)) console.log(line);
if (modelPath !== undefined) {
  const weights = fitted(examples).weights.map((row) =>
    row.map((weight) => Number(weight.toPrecision(4))),
  );
  await writeFile(modelPath, JSON.stringify({ weights }));
}

async function heard(file: string): Promise<VoiceMeter> {
  const { rateHz, blocks } = (await openSound(memorySource(await readFile(file)))).pcm();
  const meter = new VoiceMeter(rateHz);
  for await (const block of blocks) {
    meter.push(block);
    if (meter.isFull) break;
  }
  return meter;
}
