import { existsSync, readFileSync, statSync } from 'node:fs';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { transformSync } from 'esbuild';

/** Where the project lies that a file belongs to: a copy of it imports from itself. */
const rootOf = (url) => /^(.*?)\/(?:src|tests|tools)\//.exec(url)[1];

/** The file that an import without an ending means. */
function found(url) {
  const path = fileURLToPath(url);
  const candidates = [path, `${path}.ts`, `${path}.tsx`, `${path}/index.ts`, `${path}/index.tsx`];
  const file = candidates.find((one) => existsSync(one) && statSync(one).isFile());
  return file ? pathToFileURL(file).href : null;
}

export async function resolve(specifier, context, next) {
  const isOwn = specifier.startsWith('@/') || specifier.startsWith('.');
  if (isOwn && context.parentURL && !context.parentURL.includes('/node_modules/')) {
    const url = specifier.startsWith('@/')
      ? `${rootOf(context.parentURL)}/src/${specifier.slice(2)}`
      : new URL(specifier, context.parentURL);
    const file = found(url);
    if (file) return { url: file, shortCircuit: true };
  }
  return next(specifier, context);
}

export async function load(url, context, next) {
  // What stands behind a ? only tells one loading from another.
  if (!/\.tsx?(\?|$)/.test(url)) return next(url, context);
  const path = fileURLToPath(url);
  const { code } = transformSync(readFileSync(path, 'utf8'), {
    loader: path.endsWith('x') ? 'tsx' : 'ts',
    format: 'esm',
    target: 'es2022',
    jsx: 'automatic',
    sourcefile: path,
    sourcemap: 'inline',
  });
  return { format: 'module', source: code, shortCircuit: true };
}
