import { readFile, writeFile } from 'node:fs/promises';
import { cpus, totalmem } from 'node:os';
import { analysisTable } from './analysis';
import { answersTable } from './answers';
import { batchTable } from './batch';
import { breaksTable } from './breaks';
import { buildsTable } from './builds';
import { codecTable } from './codecs';
import { commandLineTable } from './commandLine';
import { compareTable } from './compare';
import { handsTable } from './hands';
import { hostsTable } from './hosts';
import { largeTable } from './large';
import { legalityTable } from './legality';
import { loopsTable } from './loops';
import { memoryTable } from './memory';
import { overheadTable } from './overhead';
import { packsTable } from './packs';
import { resamplerTable } from './resampler';
import { islandTable, scaleTable } from './scale';
import { shapingTable } from './shaping';
import type { Table } from './types';

/** Every table, in order. `npm run bench NAME …` runs those that are named and keeps the others' figures. */
const benches: Record<string, () => Promise<Table>> = {
  resampler: resamplerTable,
  analysis: analysisTable,
  codecs: codecTable,
  legality: legalityTable,
  overhead: overheadTable,
  batch: batchTable,
  builds: buildsTable,
  packs: packsTable,
  hosts: hostsTable,
  commandLine: commandLineTable,
  memory: memoryTable,
  scale: scaleTable,
  island: islandTable,
  large: largeTable,
  shaping: shapingTable,
  loops: loopsTable,
  answers: answersTable,
  breaks: breaksTable,
  compare: compareTable,
  hands: handsTable,
};

function machine(): string {
  const memory = Math.round(totalmem() / 2 ** 30);
  return `${cpus().length} × ${cpus()[0]?.model.trim()}, ${memory} GiB, Node ${process.versions.node}, ${process.platform}`;
}

function markdown({ title, note, columns, rows }: Table): string {
  const line = (cells: readonly (string | number)[]) => `| ${cells.join(' | ')} |`;
  return [
    `## ${title}`,
    '',
    note,
    '',
    line(columns),
    line(columns.map(() => '---')),
    ...rows.map(line),
    '',
  ].join('\n');
}

interface Stored {
  machine: string;
  tables: Record<string, Table>;
}

const names = process.argv.slice(2);
const path = 'docs/benchmarks.json';
// Tables that are not run again stay as they were, if they come from the same machine.
const before = JSON.parse(await readFile(path, 'utf8').catch(() => '{}')) as Partial<Stored>;
const known = before.machine === machine() ? (before.tables ?? {}) : {};
const tables: Record<string, Table> = {};
for (const [name, run] of Object.entries(benches)) {
  const table = names.length === 0 || names.includes(name) ? await run() : known[name];
  if (!table) continue;
  tables[name] = table;
  if (table !== known[name]) console.log(markdown(table));
}
const intro = `# Benchmarks\n\nMade by \`npm run bench\`. Figures vary by a fifth from run to run.\n\nMachine: ${machine()}.\n`;
const findings = await readFile('docs/benchmark-findings.md', 'utf8');
await writeFile(
  'docs/benchmarks.md',
  `${intro}\n${Object.values(tables).map(markdown).join('\n')}\n${findings}`,
);
await writeFile(path, `${JSON.stringify({ machine: machine(), tables }, null, 2)}\n`);
