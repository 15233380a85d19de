/** Assembles the resampler's inner loop from its readable source into the module that is shipped. */
import { readFile, writeFile } from 'node:fs/promises';
import { assemble } from './assemble.mjs';

const folder = 'src/core/dsp/kernel';
const binary = await assemble(await readFile(`${folder}/polyphase.wat`, 'utf8'));
await writeFile(
  `${folder}/polyphaseBinary.ts`,
  `/** Assembled from polyphase.wat by \`npm run kernel\`. */
export const POLYPHASE_BINARY =
  '${Buffer.from(binary).toString('base64')}';
`,
);
