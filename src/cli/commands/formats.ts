import type { Command } from 'commander';
import { formatTables, legalityTable, readableTable, spanName } from '@/core/formats/legality';
import { print } from '../report';

export function addFormats(program: Command): void {
  program
    .command('formats')
    .description('say what can be read, and what can be written with which rates and channels')
    .option('--json', 'print JSON instead of lines')
    .option('--markdown', 'print the tables of the README')
    .action(({ json = false, markdown = false }: { json?: boolean; markdown?: boolean }) => {
      if (markdown) {
        print(formatTables());
        return;
      }
      const [reads, writes] = [readableTable(), legalityTable()];
      if (json) {
        print(JSON.stringify({ reads, writes }, null, 2));
        return;
      }
      print('Reads, by what is in the file:');
      for (const { name, codecs } of reads) print(`  ${name.padEnd(16)}${codecs}`);
      print('Writes:');
      for (const row of writes) {
        const call = `--format ${row.format} --codec ${row.codec}`;
        const rates = row.rates?.join(', ') ?? 'any from 1000 to 768000';
        print(`  ${call.padEnd(34)}${row.settings}`);
        print(`  ${''.padEnd(34)}${rates} Hz; ${spanName(row.channels)} channels`);
      }
    });
}
