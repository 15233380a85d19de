import { writeFile } from 'node:fs/promises';
import { cpus, totalmem } from 'node:os';
import { analysisTable } from './analysis';
import { batchTable } from './batch';
import { codecTable } from './codecs';
import { memoryTable } from './memory';
import { overheadTable } from './overhead';
import { resamplerTable } from './resampler';
import type { Table } from './types';

/** Every table, in order. `npm run bench NAME …` runs only those that are named. */
const benches: Record<string, () => Promise<Table>> = {
  resampler: resamplerTable,
  analysis: analysisTable,
  codecs: codecTable,
  overhead: overheadTable,
  batch: batchTable,
  memory: memoryTable,
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

const names = process.argv.slice(2);
const tables: Table[] = [];
for (const [name, run] of Object.entries(benches)) {
  if (names.length > 0 && !names.includes(name)) continue;
  const table = await run();
  tables.push(table);
  console.log(markdown(table));
}
if (names.length === 0) {
  const intro = `# Benchmarks\n\nMade by \`npm run bench\`. Figures vary by a fifth from run to run.\n\nMachine: ${machine()}.\n`;
  await writeFile('docs/benchmarks.md', `${intro}\n${tables.map(markdown).join('\n')}`);
  await writeFile(
    'docs/benchmarks.json',
    `${JSON.stringify({ machine: machine(), tables }, null, 2)}\n`,
  );
}
