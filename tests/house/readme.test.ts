import { readFile } from 'node:fs/promises';
import { formatTables } from '@/core/formats/legality';

/** The same table, however it is aligned. */
const plain = (text: string) => text.replace(/ +/g, ' ').replace(/-{2,}/g, '---').trim();

test("the README's tables of formats are the code's own (else: npm run readme)", async () => {
  const readme = await readFile('README.md', 'utf8');
  const [, written = ''] = /<!-- formats: [^>]*-->\n([^]*)<!-- \/formats -->/.exec(readme) ?? [];
  expect(plain(written)).toBe(plain(formatTables()));
});
