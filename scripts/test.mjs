/** `npm test`: everything from a fresh clone. Its last line is `N passed, N failed`. */
import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { build, chromiumPath, install, QUICK_CHROMIUM, root, run } from './setUp.mjs';

/** Longer than a runner takes while something else keeps both cores busy. */
const MOST_MS = 35 * 60_000;

let passed = 0;
let failed = 0;
let skipped = 0;

/** Checks that each pass or fail as a whole, all at once; what one says is shown in one piece. */
async function checks(commands) {
  const runs = Object.entries(commands).map(async ([name, [command, ...args]]) => {
    const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
    let said = '';
    for (const stream of [child.stdout, child.stderr]) {
      stream.setEncoding('utf8').on('data', (text) => (said += text));
    }
    const [status] = await once(child, 'close');
    console.log(`\n── ${name}: ${status === 0 ? 'passed' : 'failed'}\n${said}`.trimEnd());
    if (status === 0) passed++;
    else failed++;
  });
  await Promise.all(runs);
}

/** A test runner that writes its own count into a file. */
function runner(name, args, report, read) {
  console.log(`\n── ${name}`);
  rmSync(report, { force: true });
  const { status } = spawnSync('npm', ['run', '--silent', ...args], {
    cwd: root,
    stdio: 'inherit',
    // What hangs has failed: no test has a limit of its own.
    timeout: MOST_MS,
  });
  const count = existsSync(report) ? read(JSON.parse(readFileSync(report, 'utf8'))) : null;
  passed += count?.passed ?? 0;
  // A runner that fails without naming a test has failed all the same.
  skipped += count?.skipped ?? 0;
  failed += Math.max(count?.failed ?? 0, status === 0 && count?.passed ? 0 : 1);
}

/** The browser comes from the distribution; Playwright's own download is not used. */
function ensureChromium() {
  if (process.env.CHROMIUM || existsSync(QUICK_CHROMIUM)) return;
  console.log('Installing Chromium from the distribution …');
  const apt = (...args) => spawnSync('apt-get', args, { stdio: 'inherit' }).status === 0;
  const add = (name) => apt('install', '-y', '-qq', '--no-install-recommends', name);
  if (apt('update', '-qq') && add('chromium-headless-shell')) return;
  // Older distributions have no other one than the whole browser.
  if (existsSync(chromiumPath()) || add('chromium')) return;
  console.error(
    'Chromium is missing and could not be installed. Install it (Debian: apt-get install ' +
      'chromium-headless-shell, or chromium), or set CHROMIUM to the path of one. The browser tests will ' +
      'fail without it.',
  );
}

install();
ensureChromium();
mkdirSync('test-results', { recursive: true });
run('npm', ['run', '--silent', 'bundle']);
build();
await checks({
  'lint and layer rule': ['npx', 'eslint', '.'],
  format: ['npx', 'prettier', '--check', '--log-level', 'warn', '.'],
  'unused code': ['npx', 'knip'],
  // Behind the build, which writes down what Next expects of routes and pages.
  types: ['npx', 'tsc', '--noEmit'],
});
runner(
  'core, server and command line',
  ['jest', '--', '--json', '--outputFile=test-results/jest.json'],
  'test-results/jest.json',
  (report) => ({
    passed: report.numPassedTests,
    failed: report.numFailedTests + report.numRuntimeErrorTestSuites,
    skipped: report.numPendingTests,
  }),
);
runner('browser', ['browser'], 'test-results/browser.json', ({ stats }) => ({
  passed: stats.expected,
  failed: stats.unexpected + stats.flaky,
  skipped: stats.skipped,
}));

if (skipped > 0) console.log(`\n${skipped} skipped: what they need is not there on this machine`);
console.log(`\n${passed} passed, ${failed} failed`);
process.exitCode = failed === 0 ? 0 : 1;
