import { readFile } from 'node:fs/promises';
import { POLYPHASE_BINARY } from '@/core/dsp/kernel/polyphaseBinary';

test('the shipped kernel is the one that its source assembles to', async () => {
  const { assemble } = (await import('../../scripts/assemble.mjs' as string)) as {
    assemble(text: string): Promise<ArrayBuffer>;
  };
  const text = await readFile('src/core/dsp/kernel/polyphase.wat', 'utf8');
  expect(Buffer.from(await assemble(text)).toString('base64')).toBe(POLYPHASE_BINARY);
});
