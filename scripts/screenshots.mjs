/** Takes the pictures in docs/screenshots from the demo data. Look at them afterwards. */
import { spawn } from 'node:child_process';
import { chromium } from '@playwright/test';
import { build, freePort, install, root } from './setUp.mjs';

const views = [
  { name: 'collect', path: '/p/1/collect', act: (page) => page.getByRole('row').nth(2).click() },
  { name: 'shape', path: '/p/1/shape/1' },
  {
    name: 'shape-facts',
    path: '/p/1/shape/7',
    async act(page) {
      await page.mouse.move(640, 720);
      await page.mouse.wheel(0, 2_000);
    },
  },
  {
    name: 'shape-frames',
    path: '/p/1/shape/4',
    async act(page) {
      const wave = await page.getByTestId('waveform').boundingBox();
      await page.mouse.move(wave.x + wave.width * 0.312, wave.y + 100);
      for (let i = 0; i < 9; i++) await page.mouse.wheel(0, -400);
    },
  },
  { name: 'pack', path: '/p/1/pack' },
  { name: 'compare', path: '/p/1/compare' },
  { name: 'rehearse', path: '/p/1/rehearse' },
  { name: 'collect-lamplight', path: '/p/1/collect', colorScheme: 'dark' },
  { name: 'shape-lamplight', path: '/p/1/shape/9', colorScheme: 'dark' },
  { name: 'pack-lamplight', path: '/p/1/pack', colorScheme: 'dark' },
];

install();
build();
const port = await freePort(4380);
const server = spawn(process.execPath, ['scripts/demoServer.mjs', String(port)], {
  cwd: root,
  stdio: 'ignore',
});
const address = `http://127.0.0.1:${port}`;
for (let answered = false; !answered;) {
  await new Promise((resolve) => setTimeout(resolve, 300));
  answered = await fetch(`${address}/api/projects`).then(
    () => true,
    () => false,
  );
}
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
for (const { name, path, act, colorScheme = 'light' } of views) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, colorScheme });
  await page.goto(address + path);
  await page.waitForLoadState('load');
  await page.waitForTimeout(1200);
  await act?.(page);
  await page.waitForTimeout(800);
  await page.screenshot({ path: `docs/screenshots/${name}.png` });
  await page.close();
}
await browser.close();
server.kill('SIGTERM');
