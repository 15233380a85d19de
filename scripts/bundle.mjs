/**
 * Bundles the command line and the worker threads into dist/, and the workers of the browser into public/workers/,
 * outside Next's bundler.
 */
import { readdirSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'esbuild';

const common = {
  outdir: 'dist',
  outExtension: { '.js': '.mjs' },
  bundle: true,
  splitting: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  sourcemap: true,
  metafile: true,
  tsconfig: 'tsconfig.json',
  logLevel: 'warning',
};

/** What is begun once and stays: Node loads its packages from node_modules. */
const lasting = build({
  ...common,
  entryPoints: {
    loadDemo: 'tools/demo/load.ts',
    handover: 'tools/demo/handover.ts',
    bench: 'tools/bench/main.ts',
    fuzz: 'tools/fuzz/main.ts',
    kill: 'tools/kill/main.ts',
    killed: 'tools/kill/acts.ts',
    voice: 'tools/voice/main.ts',
    native: 'tools/native/main.ts',
  },
  packages: 'external',
});

/** What is begun again and again, calls and threads: a hundred small files of packages would take longer to find than to run. */
const called = build({
  ...common,
  entryPoints: {
    cli: 'src/cli/main.ts',
    cliWorker: 'src/cli/batch/worker.ts',
    worker: 'src/server/work/worker.ts',
    apart: 'src/server/work/apart.ts',
  },
  // They read files or begin threads from where they lie.
  external: [
    '@audio/decode-aac',
    '@evan/opus',
    '@mediabunny/aac-encoder',
    'libflacjs',
    'mediabunny',
    'better-sqlite3',
    'piscina',
  ],
  // What is imported late must be an ES module: names of CommonJS would be found in its default alone.
  mainFields: ['module', 'main'],
  // Packages that are CommonJS ask for what Node has.
  banner: {
    js: "import { createRequire as requireOf } from 'node:module'; const require = requireOf(import.meta.url);",
  },
});

/** What runs in workers of the browser: of packages that know both, the part for browsers. */
const browsing = build({
  ...common,
  outdir: 'public/workers',
  outExtension: {},
  entryPoints: { host: 'src/player/host/worker.ts' },
  platform: 'browser',
  target: 'es2022',
  minify: true,
  sourcemap: false,
});

/** What runs meanwhile may still load a part of an earlier build. */
const KEPT_MS = 24 * 3_600_000;

const built = await Promise.all([lasting, called, browsing]);
const outputs = new Set(built.flatMap(({ metafile }) => Object.keys(metafile.outputs)));
for (const name of readdirSync('dist')) {
  const path = join('dist', name);
  const isOurs = /\.mjs(\.map)?$/.test(name) && !outputs.has(path);
  if (isOurs && Date.now() - statSync(path).mtimeMs > KEPT_MS) rmSync(path);
}
