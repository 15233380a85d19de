import { ESLint } from 'eslint';

/** Lints `code` as if it were the file at `path`, and answers the rules that were broken. */
async function broken(path: string, code: string): Promise<(string | null)[]> {
  const [result] = await new ESLint().lintText(code, { filePath: path });
  return result!.messages.map(({ ruleId }) => ruleId);
}

const uses = (specifier: string) => `import * as used from '${specifier}';\nexport default used;\n`;
const LAYER_RULE = 'boundaries/dependencies';

test.each([
  ['src/core/probe.ts', '@/server/bijou'],
  ['src/core/probe.ts', '@/ui/shared/api'],
  ['src/core/probe.ts', '../wire/index'],
  ['src/server/probe.ts', '@/cli/main'],
  ['src/server/probe.ts', '@/ui/shared/format'],
  ['src/ui/probe.ts', '@/server/bijou'],
  ['src/ui/probe.ts', '../server/db/open'],
  ['src/player/probe.ts', '@/ui/shared/api'],
  ['src/cli/probe.ts', '@/ui/shared/format'],
])('%s must not import %s', async (path, specifier) => {
  expect(await broken(path, uses(specifier))).toContain(LAYER_RULE);
});

test.each([
  ['src/app/probe.ts', '@/server/bijou'],
  ['src/ui/probe.ts', '@/core/errors'],
  ['src/server/probe.ts', '@/core/errors'],
  ['src/cli/probe.ts', '@/server/limits'],
])('%s may import %s', async (path, specifier) => {
  expect(await broken(path, uses(specifier))).not.toContain(LAYER_RULE);
});

test.each(['node:fs', 'react', 'better-sqlite3'])('the core must not import %s', async (name) => {
  expect(await broken('src/core/probe.ts', uses(name))).toContain('no-restricted-imports');
});
