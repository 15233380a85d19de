/**
 * `npm run mutants [FOLDER[/GROUP] …] [--static]`: puts small faults into the core, one at a time, and says which of them
 * no test notices. The table goes to docs/benchmarks.md by hand, what survives to test-results/mutants/.
 */
import { mkdirSync, writeFileSync } from 'node:fs';
import { Stryker } from '@stryker-mutator/core';
import { folders } from './folders.mjs';

const wanted = process.argv.slice(2).filter((one) => !one.startsWith('--'));
/** Faults in what is worked out once, when a file is loaded, need a fresh start each: only on request. */
const withStatic = process.argv.includes('--static');

/** Puts faults into some files and runs some tests of the core for each. */
function faultsIn({ mutate, tests }) {
  return new Stryker({
    testRunner: 'plain',
    plugins: ['./tools/mutants/runner.mjs'],
    plain: { testFiles: tests.map((test) => `tests/core/${test}.test.ts`) },
    testRunnerNodeArgs: ['--import', './scripts/typescript.mjs'],
    coverageAnalysis: 'perTest',
    ignoreStatic: !withStatic,
    mutate,
    // Words for people are read, not tested to the letter.
    mutator: { excludedMutations: ['StringLiteral'] },
    ignorePatterns: ['.next', 'dist', 'data', 'docs', 'test-results'],
    concurrency: 2,
    timeoutMS: 20_000,
    dryRunTimeoutMinutes: 30,
    warnings: { unknownOptions: false },
    reporters: ['progress-append-only'],
    tempDirName: 'test-results/mutants/sandbox',
    allowConsoleColors: false,
  }).runMutationTest();
}

const notNoticed = new Set(['Survived', 'NoCoverage']);
const rows = [];
mkdirSync('test-results/mutants', { recursive: true });
for (const [name, groups] of Object.entries(folders)) {
  const found = [];
  for (const [i, group] of groups.entries()) {
    if (!isWanted(name, i + 1)) continue;
    found.push(...(await faultsIn(group)));
    // After each group, so that a long run that is ended leaves what it has found.
    const missed = found.filter(({ status }) => notNoticed.has(status)).map(told);
    writeFileSync(`test-results/mutants/${name}.json`, `${JSON.stringify(missed, null, 1)}\n`);
  }
  const missed = found.filter(({ status }) => notNoticed.has(status)).length;
  const noticed = found.filter(({ status }) => status === 'Killed' || status === 'Timeout').length;
  if (found.length > 0) rows.push([name, noticed + missed, noticed, missed]);
}

/** Folders are named, or their groups from 1 on: `dsp`, `dsp/2`. */
function isWanted(folder, group) {
  return wanted.length === 0 || wanted.includes(folder) || wanted.includes(`${folder}/${group}`);
}

function told({ fileName, location, mutatorName, replacement, status }) {
  const { line, column } = location.start;
  const place = `${fileName.replace(/^.*\/src\//, 'src/')}:${line}:${column}`;
  return { place, mutatorName, replacement, status };
}

console.log(
  '\n| folder | faults | noticed | not noticed | share |\n| --- | --- | --- | --- | --- |',
);
for (const [name, all, noticed, missed] of rows) {
  const share = ((100 * noticed) / all).toFixed(1);
  console.log(`| ${name} | ${all} | ${noticed} | ${missed} | ${share} % |`);
}
