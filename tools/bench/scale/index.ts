import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import type { Browser, Page } from '@playwright/test';
import Database from 'better-sqlite3';
import { freePort, start } from '../../../scripts/setUp.mjs';
import { islandFile } from '../../demo/island';
import { fillIsland } from '../../demo/island/fill';
import type { Table } from '../types';
import {
  appearing,
  clicking,
  openBrowser,
  openPage,
  typing,
  watch,
  watched,
  type Times,
} from './page';

const SOUNDS = 2_000;
const VERY_MANY = 10_000;
const IMPORTED = 500;

type Row = [what: string, figure: string, worst: string, bar: string];

const ms = (value: number) => `${Math.round(value)} ms`;
const median = (times: Times) => [...times].sort((a, b) => a - b)[times.length >> 1] ?? 0;
const worst = (times: Times) => times.reduce((a, b) => Math.max(a, b), 0);
const row = (what: string, times: Times, bar: string): Row => [
  what,
  ms(median(times)),
  ms(worst(times)),
  bar,
];

/** How long the list of a project takes until its first lines are there, and until they can be worked with. */
async function openingRows(page: Page, collect: string, barMs: string): Promise<Row[]> {
  // The first call warms the server.
  await appearing(page, collect);
  const seen = [];
  for (let i = 0; i < 5; i++) seen.push(await appearing(page, collect));
  const answer = await page.request.get(collect);
  const megabytes = (await answer.body()).length / 1e6;
  return [
    ['the page as it travels', `${megabytes.toFixed(2)} MB`, '–', '–'],
    row(
      'first lines drawn',
      seen.map(({ drawn }) => drawn),
      barMs,
    ),
    row(
      'answers to keys',
      seen.map(({ answers }) => answers),
      '–',
    ),
  ];
}

/** The list of a large project, as its owner sees it in the browser. */
async function listRows(browser: Browser, address: string, projectId: number): Promise<Row[]> {
  const page = await openPage(browser);
  const opening = await openingRows(page, `${address}/p/${projectId}/collect`, '1 s');
  const heads = ['Name', 'Length', 'Size', 'True peak'];
  const sorts: number[] = [];
  for (const head of heads) {
    const button = `[role=columnheader] button[title$="Click to sort"]:not([aria-label])`;
    await page.evaluate(
      ({ button, head }) => {
        const found = [...document.querySelectorAll(button)].find((b) => b.textContent === head);
        document.querySelector('[data-bench]')?.removeAttribute('data-bench');
        found?.setAttribute('data-bench', '');
      },
      { button, head },
    );
    sorts.push(...(await clicking(page, '[data-bench]', 3)));
  }
  const filters = await clicking(page, '[role=group][aria-label=Worries] button', 6);
  const letters = await typing(page, 'bell far');
  return [
    ...opening,
    row('sorted by a heading', sorts, '100 ms'),
    row('filtered by a worry', filters, '100 ms'),
    row('searched, per letter', letters, '100 ms'),
    await scrolling(page),
    await listening(page),
  ];
}

/** What stands on the page of Pack, however many files there are to build. */
async function packRow(browser: Browser, address: string, projectId: number): Promise<Row> {
  const page = await openPage(browser);
  await page.goto(`${address}/p/${projectId}/pack`);
  await page
    .getByText(/files to build/)
    .first()
    .waitFor();
  await page.waitForTimeout(2_000);
  const elements = await page.locator('*').count();
  await page.close();
  return ['elements on the page of Pack', elements.toLocaleString('en'), '–', '6,000'];
}

async function scrolling(page: Page): Promise<Row> {
  await page.mouse.move(640, 500);
  await watch(page, { forBlanks: true });
  for (let i = 0; i < 150; i++) {
    await page.mouse.wheel(0, i % 30 === 29 ? 12_000 : 480);
    await page.waitForTimeout(16);
  }
  const { gaps, blanks } = await watched(page);
  return [
    `scrolled: ${blanks} of ${gaps.length} pictures with a blank line`,
    ms(median(gaps)),
    ms(worst(gaps)),
    'no blank line',
  ];
}

async function listening(page: Page): Promise<Row> {
  await page.getByRole('button', { name: 'Hear on choosing' }).click();
  await page.keyboard.press('Home');
  await page.waitForTimeout(1_000);
  await page.evaluate(() => void (window.heardAfter = []));
  for (let i = 0; i < 40; i++) {
    await page.keyboard.press('ArrowDown');
    await page.waitForTimeout(350);
  }
  const times = await page.evaluate(() => window.heardAfter);
  return row(`arrow key until it is heard (${times.length} of 40 sounds)`, times, '150 ms');
}

/** Bringing in short WAV files, with an eye on the threads and on the screen. */
async function importRows(browser: Browser, address: string, folder: string): Promise<Row[]> {
  const paths: string[] = [];
  for (let number = 0; paths.length < IMPORTED; number++) {
    // Numbers beyond the large project's, so that nothing is here already.
    const { path, bytes } = await islandFile(SOUNDS + number);
    if (!path.endsWith('.wav')) continue;
    const file = join(folder, 'files', path);
    await mkdir(dirname(file), { recursive: true });
    await writeFile(file, bytes);
    paths.push(file);
  }
  const page = await openPage(browser);
  const made = await page.request.post(`${address}/api/projects`, { data: { name: 'Import' } });
  const { id } = (await made.json()) as { id: number };
  await page.goto(`${address}/p/${id}/collect`);
  await page.waitForTimeout(1_500);
  const jobs = new Database(join(folder, 'data', 'bijou.db'), { readonly: true });
  const running = jobs
    .prepare<[number], number>(
      `SELECT count(*) FROM jobs WHERE projectId = ? AND kind = 'read' AND state = 'running'`,
    )
    .pluck();
  const ready = jobs
    .prepare<[number], number>(
      `SELECT count(*) FROM sounds WHERE projectId = ? AND state = 'ready'`,
    )
    .pluck();
  await watch(page, { forBlanks: false });
  const began = performance.now();
  await page.getByTestId('files').setInputFiles(paths);
  const threads: number[] = [];
  while ((ready.get(id) ?? 0) < IMPORTED && performance.now() - began < 300_000) {
    threads.push(running.get(id) ?? 0);
    await new Promise((done) => setTimeout(done, 50));
  }
  const seconds = (performance.now() - began) / 1000;
  jobs.close();
  await page.getByText(`${IMPORTED} added`).waitFor();
  const { gaps } = await watched(page);
  const busy = threads.reduce((sum, n) => sum + n, 0) / threads.length;
  return [
    [`${IMPORTED} short files brought in`, `${seconds.toFixed(1)} s`, '–', '–'],
    [
      'threads at work meanwhile, of 2',
      busy.toFixed(2),
      String(Math.min(...threads.slice(4))),
      '2',
    ],
    row('between two pictures of the screen meanwhile', gaps, 'responsive'),
  ];
}

/** Makes the project with so many sounds and opens it in a browser, for as long as `look` takes. */
async function withIsland<T>(
  sounds: number,
  look: (island: Island, made: Row) => Promise<T>,
): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), 'bijou-bench-'));
  const dataDir = join(folder, 'data');
  const { projectId, seconds } = await fillIsland(dataDir, sounds);
  const { server, address } = await start({ port: await freePort(4_400), dataDir });
  const browser = await openBrowser();
  const what = `${sounds.toLocaleString('en')} sounds taken in and read`;
  try {
    return await look({ folder, projectId, address, browser }, [
      what,
      `${seconds.toFixed(0)} s`,
      '–',
      '–',
    ]);
  } finally {
    await browser.close();
    server.kill('SIGTERM');
    await new Promise((done) => server.once('exit', done));
    await rm(folder, { recursive: true, force: true });
  }
}

interface Island {
  folder: string;
  projectId: number;
  address: string;
  browser: Browser;
}

const columns = ['what', 'median', 'worst', 'bar'];

export function scaleTable(): Promise<Table> {
  return withIsland(SOUNDS, async ({ folder, projectId, address, browser }, made) => ({
    title: 'A large project',
    note:
      `A project of ${SOUNDS.toLocaleString('en')} sounds of the whole island in the browser, and ${IMPORTED} more WAV files of a ` +
      'second or so brought into an empty project. Headless Chromium, server, worker threads and what measures ' +
      'share two cores. Times end when the picture has been drawn, or when the first frame is heard.',
    columns,
    rows: [
      made,
      ...(await listRows(browser, address, projectId)),
      await packRow(browser, address, projectId),
      ...(await importRows(browser, address, folder)),
    ],
  }));
}

export function islandTable(): Promise<Table> {
  return withIsland(VERY_MANY, async ({ projectId, address, browser }, made) => {
    const page = await openPage(browser);
    const opening = await openingRows(page, `${address}/p/${projectId}/collect`, '2 s');
    return {
      title: 'A very large project',
      note: 'The same with five times as many sounds.',
      columns,
      rows: [made, ...opening, await scrolling(page), await packRow(browser, address, projectId)],
    };
  });
}
