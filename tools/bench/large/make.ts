import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { link, mkdir } from 'node:fs/promises';
import { dirname, join, resolve } from 'node:path';
import Database from 'better-sqlite3';
import type { EncodingPlan } from '@/core/encoding';
import { openBijou } from '@/server/bijou';
import { FileStore } from '@/server/files/store';
import { encodingKey } from '@/server/services/encodings';
import { islandFile } from '../../demo/island';

/** So many are made and measured; the others are copies of them under other addresses. */
const SEEDS = 40;

type Row = Record<string, unknown>;

/** Where every sound of the large project goes. */
export const LARGE_BRIEFS = [
  'engine-effects',
  'web-single',
  'game-mod',
  'archive',
  'wav-master',
  'web-page',
] as const;

const sha256 = (text: string) => createHash('sha256').update(text).digest('hex');

/**
 * A data folder with a project of `sounds` sounds, all built for six destinations. Real ones, really built, are
 * multiplied in the database; their files are links to the same bytes. Answers the project's id.
 */
export async function makeLarge(dataDir: string, sounds: number): Promise<number> {
  const project = await makeSeeds(dataDir);
  const store = new FileStore(dataDir);
  const db = new Database(join(dataDir, 'bijou.db'));
  db.pragma('synchronous = OFF');
  const prepared = new Map<string, Database.Statement<unknown[], Row>>();
  const statement = (sql: string) => {
    const found = prepared.get(sql) ?? db.prepare<unknown[], Row>(sql);
    prepared.set(sql, found);
    return found;
  };
  const insert = (table: string, row: Row) => {
    const names = Object.keys(row);
    const list = names.map((name) => `"${name}"`).join();
    const values = names.map((name) => `@${name}`).join();
    return Number(
      statement(`INSERT INTO ${table} (${list}) VALUES (${values})`).run(row).lastInsertRowid,
    );
  };
  const all = (sql: string, ...of: unknown[]) => statement(sql).all(...of);
  const seeds = all('SELECT * FROM sounds WHERE projectId = ?', project);
  const links: [string, string][] = [];
  const copyOne = (seed: Row, n: number) => {
    const address = sha256(`${seed['sourceSha256'] as string} ${n}`);
    const [source] = all('SELECT * FROM sources WHERE sha256 = ?', seed['sourceSha256']);
    insert('sources', { ...source, sha256: address });
    links.push([seed['sourceSha256'] as string, address]);
    const { id: seedId, ...rest } = seed;
    const soundId = insert('sounds', {
      ...rest,
      name: `${seed['name'] as string} ${n}`,
      sourceSha256: address,
    });
    for (const { id, ...assignment } of all(
      'SELECT * FROM assignments WHERE soundId = ?',
      seedId,
    )) {
      const assignmentId = insert('assignments', { ...assignment, soundId });
      for (const { id: outputId, ...output } of all(
        'SELECT * FROM outputs WHERE assignmentId = ?',
        id,
      )) {
        void outputId;
        const [encoding] = all('SELECT * FROM encodings WHERE id = ?', output['encodingId']);
        const { id: encodingId, ...made } = encoding!;
        void encodingId;
        const plan: EncodingPlan = {
          ...(JSON.parse(made['plan'] as string) as EncodingPlan),
          sourceSha256: address,
        };
        const key = encodingKey(plan);
        const known = all('SELECT id FROM encodings WHERE key = ?', key)[0]?.['id'];
        const file = plan.isCopy ? address : sha256(`${made['sha256'] as string} ${n}`);
        const own =
          known ?? insert('encodings', { ...made, key, plan: JSON.stringify(plan), sha256: file });
        if (known === undefined && !plan.isCopy) links.push([made['sha256'] as string, file]);
        insert('outputs', { ...output, assignmentId, encodingId: own });
      }
    }
  };
  db.transaction(() => {
    for (let n = seeds.length; n < sounds; n++) {
      copyOne(seeds[n % seeds.length]!, Math.floor(n / seeds.length));
    }
  })();
  db.close();
  for (const [from, to] of links) await linkFiles(store, from, to);
  return project;
}

async function linkFiles(store: FileStore, from: string, to: string): Promise<void> {
  await mkdir(dirname(store.path(to)), { recursive: true });
  // Encodings of several destinations may be the same bytes.
  if (existsSync(store.path(to))) return;
  await link(store.path(from), store.path(to));
  for (const kind of ['peaks', 'pcm.wav'] as const) {
    if (existsSync(store.path(from, kind)))
      await link(store.path(from, kind), store.path(to, kind));
  }
}

async function makeSeeds(dataDir: string): Promise<number> {
  const bijou = await openBijou(dataDir, { worker: resolve('dist/worker.mjs') });
  try {
    const project = bijou.projects.add('The whole island');
    const ids: number[] = [];
    for (let n = 0; ids.length < SEEDS; n++) {
      const { path, bytes } = await islandFile(n);
      if (!path.endsWith('.wav')) continue;
      const stream = (async function* () {
        yield bytes;
      })();
      ids.push((await bijou.sounds.add(project, path, stream, bytes.length)).sound.id);
    }
    await bijou.jobs.idle();
    const ready = ids.filter((id) => bijou.sounds.byId(id).facts);
    bijou.packs.send(project, { sounds: ready, briefs: [...LARGE_BRIEFS] });
    await bijou.jobs.idle();
    bijou.packs.build(project);
    await bijou.jobs.idle();
    return project;
  } finally {
    await bijou.close();
  }
}
