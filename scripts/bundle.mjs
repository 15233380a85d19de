/**
 * Bundles the command line and the worker threads into dist/, outside Next's bundler.
 * Packages stay external: Node loads them from node_modules.
 */
import { build } from 'esbuild';

await build({
  entryPoints: {
    cli: 'src/cli/main.ts',
    cliWorker: 'src/cli/batch/worker.ts',
    worker: 'src/server/work/worker.ts',
    apart: 'src/server/work/apart.ts',
    loadDemo: 'tools/demo/load.ts',
    handover: 'tools/demo/handover.ts',
    bench: 'tools/bench/main.ts',
    fuzz: 'tools/fuzz/main.ts',
    kill: 'tools/kill/main.ts',
    killed: 'tools/kill/acts.ts',
  },
  outdir: 'dist',
  outExtension: { '.js': '.mjs' },
  bundle: true,
  splitting: true,
  packages: 'external',
  platform: 'node',
  format: 'esm',
  target: 'node20',
  sourcemap: true,
  tsconfig: 'tsconfig.json',
  logLevel: 'warning',
});
