import { cp, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { monitorEventLoopDelay } from 'node:perf_hooks';
import Database from 'better-sqlite3';
import { parseCandidate } from '@/core/compare/candidates/text';
import { openBijou, type Bijou } from '@/server/bijou';
import { soundBasis } from '@/server/services/bases';
import { packNews, packState } from '@/wire/travelling';
import type { Table } from '../types';
import { LARGE_BRIEFS, makeLarge } from './make';

const SOUNDS = 10_000;
const RUNS = 20;
const BUILDS = 20;
const PACKS = 200;

type Row = [what: string, took: string, cpu: string, held: string, bar: string];

const ms = (value: number) => `${value < 10 ? value.toFixed(1) : Math.round(value)} ms`;

/** How long something takes, how much of the processor, and for how long nothing else had its turn meanwhile. */
async function measured(what: string, bar: string, work: () => unknown): Promise<Row> {
  const delay = monitorEventLoopDelay({ resolution: 1 });
  delay.enable();
  // It counts from one turn to the next.
  await new Promise((turn) => setTimeout(turn, 5));
  const before = process.cpuUsage();
  const began = performance.now();
  const note = await work();
  const took = performance.now() - began;
  const { user, system } = process.cpuUsage(before);
  await new Promise((turn) => setTimeout(turn, 5));
  delay.disable();
  const size = typeof note === 'number' ? `${what}: ${(note / 1_000).toFixed(1)} kB` : what;
  return [size, ms(took), ms((user + system) / 1_000), ms(delay.max / 1e6), bar];
}

/** Many builds, packs and trials, as they come together over months. */
function multiply(dataDir: string, project: number, bases: ReadonlyMap<number, string>): number {
  const db = new Database(join(dataDir, 'bijou.db'));
  db.pragma('synchronous = OFF');
  const run = (sql: string, ...of: unknown[]) => db.prepare(sql).run(...of).lastInsertRowid;
  const [trial] = db.prepare('SELECT * FROM trials WHERE figures IS NOT NULL').all() as [
    Record<string, unknown>,
  ];
  const sounds = [...bases].slice(0, 100);
  const first = db.prepare('SELECT min(id) FROM builds').pluck().get();
  db.transaction(() => {
    for (let n = 1; n < BUILDS; n++) {
      const build = run('INSERT INTO builds (projectId, createdAt) VALUES (?, ?)', project, '2026');
      run(
        `INSERT INTO outputs (buildId, assignmentId, fileId, encodingId, path)
         SELECT ?, assignmentId, fileId, encodingId, path FROM outputs WHERE buildId = ?`,
        build,
        first,
      );
    }
    run('DELETE FROM staleCells');
    for (let n = 0; n < PACKS; n++) {
      run(
        `INSERT INTO packs (projectId, title, briefs, state, digest, createdAt, files, bytes)
         VALUES (?, ?, '["archive"]', 'done', ?, '2026', 1000, 1000000)`,
        project,
        `Pack ${n}`,
        String(n),
      );
    }
    for (let n = 0; n < RUNS; n++) {
      const comparison = run(
        `INSERT INTO comparisons (projectId, runs, machine, createdAt)
         SELECT projectId, runs, machine, createdAt FROM comparisons LIMIT 1`,
      );
      for (const [soundId, basis] of sounds) {
        for (let k = 0; k < 10; k++) {
          run(
            `INSERT INTO trials (comparisonId, soundId, candidate, encodingId, plan, basis, error, figures, listed, work)
             SELECT ?, ?, json_set(candidate, '$.settings.kbps', ?), encodingId, plan, ?, error, figures, listed, work
             FROM trials WHERE id = ?`,
            comparison,
            soundId,
            32 + 16 * k,
            basis,
            trial['id'],
          );
        }
      }
    }
  })();
  const latest = db.prepare('SELECT max(id) FROM comparisons').pluck().get() as number;
  db.close();
  return latest;
}

/** Makes one trial; answers what trials of all sounds would be planned from. */
async function withRun(dataDir: string, project: number): Promise<Map<number, string>> {
  const bijou = await opened(dataDir);
  const all = bijou.sounds.ofProject(project);
  const { id } = all[0]!;
  bijou.trying.begin(project, [id], [parseCandidate('mp3@64')], 1);
  await bijou.jobs.idle();
  await bijou.close();
  return new Map(all.map((sound) => [sound.id, soundBasis(sound)]));
}

const opened = (dataDir: string): Promise<Bijou> =>
  openBijou(dataDir, { worker: resolve('dist/worker.mjs') });

async function rowsOf(bijou: Bijou, project: number, run: number): Promise<Row[]> {
  const rows: Row[] = [];
  const note = async (what: string, bar: string, work: () => unknown) =>
    void rows.push(await measured(what, bar, work));
  await note(
    'the page, the first time',
    '300 ms',
    () => packState(bijou.firstPart(project)).length,
  );
  const { revision, rest } = bijou.firstPart(project);
  await note(
    'each further thousand sounds of it',
    '–',
    () =>
      JSON.stringify(packNews(bijou.projectNews(project, { revision, after: rest?.after }))).length,
  );
  const { cells, sounds } = bijou.projectState(project);
  const cell = cells[cells.length >> 1]!;
  const rename = (n: number) =>
    bijou.edits.edit(project, [{ soundId: cell.soundId, name: `other ${n}` }]);
  rename(0);
  await note('a name is changed, and one of its cells read', '20 ms', () => {
    rename(1);
    bijou.packs.lines(project, [cell.id]);
  });
  const output = bijou.packs.lines(project, [cell.id])[0]!.outputs[0]!;
  await note('one range of an output', '5 ms', () =>
    bijou.packs.file(output.id, { range: 'bytes=0-99', ifRange: null, ifNoneMatch: null }),
  );
  await bijou.estimates.ofAssignment(sounds[0]!, 'web-page');
  await note('an estimate', '–', () =>
    bijou.estimates.ofAssignment(bijou.sounds.byId(cell.soundId), 'web-page'),
  );
  await bijou.packing.outline(project, ['archive']);
  await note('an outline of 10,000 files', '300 ms', () =>
    bijou.packing.outline(project, ['engine-effects']),
  );
  await note('the same once more, while nothing of it is other', '–', () =>
    bijou.packing.outline(project, ['engine-effects']),
  );
  await note(`a comparison of 1,000 trials`, '100 ms', () => bijou.comparisons.details(run));
  await note(`a list of ${RUNS} comparisons`, '–', () => bijou.comparisons.list(project));
  bijou.builds.list(project);
  await note(`a list of ${BUILDS} builds`, '50 ms', () => bijou.builds.list(project));
  await note(`a list of ${PACKS} packs`, '50 ms', () => bijou.packing.list(project));
  await note('a copy of the project', '5 s', () => bijou.projects.copy(project));
  await bijou.jobs.idle();
  return rows;
}

/** Everything is to be built anew: what that queues, and cancelling it. */
async function cancelRows(bijou: Bijou, project: number): Promise<Row[]> {
  const sounds = bijou.sounds.ofProject(project);
  const briefs = [...LARGE_BRIEFS];
  bijou.packs.send(
    project,
    { sounds: sounds.map(({ id }) => id), briefs },
    { clipping: 'limit', prefix: 'x' },
  );
  for (const { id } of sounds) {
    bijou.sounds.setRecipe(id, {
      version: 1,
      steps: [{ kind: 'gain', on: true, params: { gainDb: -1 } }],
    });
  }
  await bijou.jobs.idle();
  const rows = [
    await measured('a build of everything is begun', '–', () => void bijou.packs.build(project)),
  ];
  const { revision } = bijou.projectState(project);
  rows.push(
    await measured(
      'news with all of that open',
      '10 kB',
      () => JSON.stringify(bijou.projectNews(project, { revision })).length,
    ),
    await measured('cancelling all of it', '1 s, 50 ms held', () => bijou.jobs.cancelAll(project)),
  );
  return rows;
}

export async function largeTable(): Promise<Table> {
  const folder = await mkdtemp(join(tmpdir(), 'bijou-bench-'));
  const made = process.env['LARGE'];
  const data = join(folder, 'data');
  try {
    if (made) await cp(made, data, { recursive: true });
    const project = made ? 1 : await makeLarge(data, SOUNDS);
    const first = await opened(data);
    const began = performance.now();
    await first.jobs.idle();
    const settled = performance.now() - began;
    await first.close();
    const bases = await withRun(data, project);
    const run = multiply(data, project, bases);
    const bijou = await opened(data);
    await bijou.jobs.idle();
    const rows = await rowsOf(bijou, project, run);
    rows.push(...(await cancelRows(bijou, project)));
    await bijou.close();
    return {
      title: 'A very large project behind Pack',
      note:
        `${SOUNDS.toLocaleString('en')} sounds, all built for six destinations: real sounds, really built, multiplied ` +
        `in the database. In the server’s process, without the way to the browser.` +
        (made
          ? ''
          : ` All cells worked out anew: ${(settled / 1000).toFixed(0)} s, behind all else.`),
      columns: ['what', 'took', 'processor time', 'longest time held', 'bar'],
      rows,
    };
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
