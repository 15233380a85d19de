/** What demo, dev and test share: installing, building and starting, with nothing but Node itself. */
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readdirSync, statSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';

export const root = join(import.meta.dirname ?? new URL('.', import.meta.url).pathname, '..');

/** Nobody is told what is done here. */
const quiet = { ...process.env, NEXT_TELEMETRY_DISABLED: '1' };

/** Longest that the application may take to end, before it is ended. */
const ENDING_MS = 4_000;

/** Debian's browser without windows: tests take half as long in it as in the whole one. */
export const QUICK_CHROMIUM = '/usr/bin/chromium-headless-shell';
const chromiums = [QUICK_CHROMIUM, '/usr/bin/chromium'];

/** The browser that tests run in: the one that CHROMIUM names, else the first that there is. */
export function chromiumPath() {
  return process.env.CHROMIUM ?? chromiums.find((path) => existsSync(path)) ?? chromiums[0];
}

/** Runs a command in the project's folder with its output shown. Ends this process when it fails. */
export function run(command, args, env = {}) {
  const { status } = spawnSync(command, args, {
    cwd: root,
    stdio: 'inherit',
    env: { ...quiet, ...env },
  });
  if (status !== 0) {
    console.error(`\n${[command, ...args].join(' ')} failed.`);
    process.exit(status ?? 1);
  }
}

/** Installs the packages that package-lock.json names, unless they are there already. */
export function install() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 9)) {
    console.error(`Bijou needs Node 20.9 or newer; this is ${process.versions.node}.`);
    process.exit(1);
  }
  const installed = join(root, 'node_modules', '.package-lock.json');
  if (existsSync(installed) && modified(installed) >= modified(join(root, 'package-lock.json')))
    return;
  console.log('Installing packages (a few minutes the first time; the database is compiled) …');
  run('npm', ['ci', '--no-audit', '--no-fund']);
}

/** Builds the pages and the workers, unless nothing has changed since. */
export function build() {
  const built = join(root, '.next', 'BUILD_ID');
  const inputs = ['src', 'tools', 'package-lock.json', 'next.config.ts', 'tsconfig.json'];
  const newest = Math.max(...inputs.map((path) => newestIn(join(root, path))));
  if (
    existsSync(built) &&
    modified(built) >= newest &&
    existsSync(join(root, 'dist', 'worker.mjs'))
  )
    return;
  console.log('Building …');
  run('npm', ['run', '--silent', 'build']);
}

function modified(path) {
  return statSync(path).mtimeMs;
}

function newestIn(path) {
  if (!statSync(path).isDirectory()) return modified(path);
  return Math.max(0, ...readdirSync(path).map((name) => newestIn(join(path, name))));
}

/** Ends a started application with this process: in order, or after a while at any rate. */
export function endTogether(server, after = () => {}) {
  let isEnding = false;
  const end = (signal) => {
    if (isEnding) return;
    isEnding = true;
    server.kill(signal);
    setTimeout(() => server.kill('SIGKILL'), ENDING_MS).unref();
  };
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => end(signal));
  server.on('exit', (status) => {
    after();
    process.exit(isEnding ? 0 : (status ?? 1));
  });
}

/** The first port from `from` on that nobody listens on. */
export async function freePort(from) {
  for (let port = from; port < from + 100; port++) {
    const isFree = await new Promise((resolve) => {
      const probe = createServer()
        .once('error', () => resolve(false))
        .once('listening', () => probe.close(() => resolve(true)));
      probe.listen(port, '127.0.0.1');
    });
    if (isFree) return port;
  }
  throw new Error('no free port');
}

/**
 * What Next is told of how to listen. Connections stay open longer than anybody pauses between two requests: one that is closed
 * just when it is used again fails.
 */
const listenOptions = (port) => [
  '-H',
  '127.0.0.1',
  '-p',
  String(port),
  '--keepAliveTimeout',
  '75000',
];

/** Starts the built application on 127.0.0.1 and waits until it answers. */
export async function start({ port, dataDir, stdio = 'ignore' }) {
  const next = join(root, 'node_modules', 'next', 'dist', 'bin', 'next');
  const server = spawn(process.execPath, [next, 'start', ...listenOptions(port)], {
    cwd: root,
    stdio,
    env: {
      ...quiet,
      NODE_ENV: 'production',
      // The application itself ends the process, after it has put its work away.
      NEXT_MANUAL_SIG_HANDLE: 'true',
      ...(dataDir && { BIJOU_DATA: dataDir }),
    },
  });
  const address = `http://127.0.0.1:${port}`;
  for (let tries = 0; tries < 150; tries++) {
    if (server.exitCode !== null) throw new Error('the server ended while starting');
    const answer = await fetch(`${address}/api/projects`).catch(() => null);
    if (answer?.ok) return { server, address };
    // What cannot be opened will not be opened by waiting.
    const refused = answer && (await answer.json().catch(() => null));
    if (refused?.error) {
      server.kill();
      throw new Error(`${refused.error.message} ${refused.error.hint}`);
    }
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  server.kill();
  throw new Error('the server did not answer');
}
