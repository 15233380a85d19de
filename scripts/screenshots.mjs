/**
 * Takes the pictures in docs/screenshots from the demo data; with names, only those. Look at them
 * afterwards. `--out DIR` puts them elsewhere.
 */
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { chromium } from '@playwright/test';
import { hostViews } from './hostPictures.mjs';
import { packViews } from './packPictures.mjs';
import { build, chromiumPath, freePort, install, root } from './setUp.mjs';

const chooseSecond = (page) => page.getByRole('row').nth(2).click();

/** Marks a part of the waveform, by shares of its width. */
async function markPart(page, from, to) {
  const wave = await page.getByTestId('waveform').boundingBox();
  await page.mouse.move(wave.x + wave.width * from, wave.y + 60);
  await page.mouse.down();
  await page.mouse.move(wave.x + wave.width * to, wave.y + 60, { steps: 5 });
  await page.mouse.up();
}

/** Tries the usual set on four short sounds, once for all pictures. */
async function compared(page) {
  const runs = await (await page.request.get('/api/projects/1/comparisons')).json();
  if (runs.length > 0) return runs[0].id;
  const { ready } = await (await page.request.get('/api/projects/1/candidate-sets')).json();
  const candidates = ready[0].candidates.map(({ writer, settings }) => ({ writer, settings }));
  const data = { sounds: [3, 4, 5, 6], candidates };
  const { id } = await (await page.request.post('/api/projects/1/comparisons', { data })).json();
  for (let isOpen = true; isOpen;) {
    await page.waitForTimeout(1_000);
    const { trials } = await (await page.request.get(`/api/comparisons/${id}`)).json();
    isOpen = trials.some(({ state, measured }) => state !== 'failed' && !measured?.work);
  }
  return id;
}

/** The sheet for all sounds, as one fills it in. */
async function convertAll(page) {
  await page.getByRole('button', { name: /^All \d+ listed/ }).click();
  await page.keyboard.press('z');
  await page.getByText('Ogg Opus', { exact: true }).click();
  await page.waitForTimeout(5_000);
}

const views = [
  { name: 'collect', path: '/p/1/collect', act: chooseSecond },
  { name: 'convert', path: '/p/1/collect', act: convertAll },
  {
    name: 'shape',
    path: '/p/1/shape/9',
    async act(page) {
      await markPart(page, 0.42, 0.58);
      await page.keyboard.press('r');
      await page.keyboard.press('r');
      await page.waitForTimeout(4_000);
    },
  },
  {
    name: 'shape-spectrogram',
    path: '/p/1/shape/6',
    async act(page) {
      await page.keyboard.press('g');
      await page.keyboard.press('y');
      await markPart(page, 0.05, 0.3);
      await page.waitForTimeout(2_000);
    },
  },
  {
    name: 'shape-join',
    path: '/p/1/shape/join?sounds=4,5,6,1',
    async act(page) {
      for (const [part, gap] of [
        [1, '0.1'],
        [2, '0:00.250'],
        [3, '-0.5'],
      ]) {
        await page.getByRole('textbox', { name: `Gap behind part ${part}` }).fill(gap);
        await page.keyboard.press('Enter');
      }
      await page.getByRole('textbox', { name: 'Name of the new sound' }).fill('skerry signals');
    },
  },
  {
    name: 'loop',
    path: '/p/1/shape/9/loop',
    async act(page) {
      await page.keyboard.press('r');
      await page.keyboard.press('r');
      await page.waitForTimeout(4_000);
      await page.mouse.move(640, 720);
      await page.mouse.wheel(0, 190);
    },
  },
  {
    name: 'compare',
    path: '/p/1/compare',
    async act(page) {
      await compared(page);
      await page.reload();
      await page.waitForTimeout(1_500);
      await page.getByRole('row', { name: /Ogg Opus, 64/ }).hover();
    },
  },
  {
    name: 'compare-pair',
    path: '/p/1/compare',
    async act(page) {
      const id = await compared(page);
      const { trials } = await (await page.request.get(`/api/comparisons/${id}`)).json();
      const trial = trials.find((one) => one.soundId === 3 && one.candidate.text === 'mp3@96');
      await page.goto(`/p/1/compare/${id}/pair/source/${trial.id}`);
      await page.waitForTimeout(3_000);
    },
  },
  { name: 'pack', path: '/p/1/pack' },
  { name: 'pack-cell', path: '/p/1/pack?cell=8.ar-filter' },
  {
    name: 'pack-brief',
    path: '/p/1/pack/briefs/game-mod',
    async act(page) {
      await page.getByRole('button', { name: 'Copy' }).click();
      await page.getByRole('button', { name: 'Edit' }).click();
      await page.getByRole('textbox', { name: 'Characters', exact: true }).fill('A-Z');
      await page.waitForTimeout(1_200);
    },
  },
  {
    name: 'pack-doctor',
    path: '/p/1/pack/doctor',
    async act(page) {
      const answer = await page.request.get('/api/outputs/1/file');
      await page.getByLabel('Files for the doctor').setInputFiles({
        name: 'Foghorn.ogg',
        mimeType: 'audio/ogg',
        buffer: await answer.body(),
      });
      await page.getByRole('article', { name: 'Foghorn.ogg' }).waitFor({ timeout: 20_000 });
      await page.waitForTimeout(500);
    },
  },
  ...packViews,
  ...hostViews,
];

const { values, positionals: names } = parseArgs({
  allowPositionals: true,
  options: { out: { type: 'string', default: 'docs/screenshots' } },
});
const wanted = views.filter(({ name }) => names.length === 0 || names.includes(name));

install();
build();
const port = await freePort(4380);
const server = spawn(process.execPath, ['scripts/demoServer.mjs', String(port)], {
  cwd: root,
  stdio: 'ignore',
});
const baseURL = `http://127.0.0.1:${port}`;
for (let answered = false; !answered;) {
  await new Promise((resolve) => setTimeout(resolve, 300));
  answered = await fetch(`${baseURL}/api/projects`).then(
    () => true,
    () => false,
  );
}
const browser = await chromium.launch({
  executablePath: chromiumPath(),
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
try {
  for (const { name, path, act, colorScheme = 'light' } of wanted) {
    const page = await browser.newPage({
      baseURL,
      viewport: { width: 1280, height: 800 },
      colorScheme,
    });
    await page.goto(path);
    await page.waitForLoadState('load');
    await page.waitForTimeout(1200);
    await act?.(page);
    await page.waitForTimeout(800);
    await page.screenshot({ path: join(values.out, `${name}.png`) });
    await page.close();
  }
} finally {
  await browser.close();
  server.kill('SIGTERM');
}
