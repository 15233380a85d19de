/** What demo, dev and test share: installing, building and starting, with nothing but Node itself. */
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readdirSync, statSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';

export const root = join(import.meta.dirname ?? new URL('.', import.meta.url).pathname, '..');

/** Runs a command in the project's folder with its output shown. Ends this process when it fails. */
export function run(command, args, env = {}) {
  const { status } = spawnSync(command, args, {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, ...env },
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

/** Starts the built application on 127.0.0.1 and waits until it answers. */
export async function start({ port, dataDir, stdio = 'ignore' }) {
  const next = join(root, 'node_modules', 'next', 'dist', 'bin', 'next');
  const server = spawn(process.execPath, [next, 'start', '-H', '127.0.0.1', '-p', String(port)], {
    cwd: root,
    stdio,
    env: { ...process.env, NODE_ENV: 'production', ...(dataDir && { BIJOU_DATA: dataDir }) },
  });
  const address = `http://127.0.0.1:${port}`;
  for (let tries = 0; tries < 150; tries++) {
    if (server.exitCode !== null) throw new Error('the server ended while starting');
    const answered = await fetch(`${address}/api/projects`).then(
      (response) => response.ok,
      () => false,
    );
    if (answered) return { server, address };
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  server.kill();
  throw new Error('the server did not answer');
}
