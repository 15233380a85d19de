/** `npm run demo`: from a fresh clone to the open demo project. */
import { spawn } from 'node:child_process';
import { build, endTogether, freePort, install, run, start } from './setUp.mjs';

install();
build();
run(process.execPath, ['dist/loadDemo.mjs']);
const { server, address } = await start({ port: await freePort(4310), stdio: 'inherit' });
console.log(`\nBijou is at ${address} — the demo project is Marrow Skerry. Ctrl+C ends it.\n`);
openInBrowser(address);
endTogether(server);

/** Shows the page where there is a desktop to show it on. */
function openInBrowser(url) {
  const isDesktop =
    process.platform !== 'linux' || process.env.DISPLAY || process.env.WAYLAND_DISPLAY;
  if (process.env.CI || !process.stdout.isTTY || !isDesktop) return;
  const openers = { darwin: ['open', url], win32: ['cmd', '/c', 'start', '', url] };
  const [command, ...args] = openers[process.platform] ?? ['xdg-open', url];
  spawn(command, args, { stdio: 'ignore', detached: true })
    .on('error', () => {})
    .unref();
}
