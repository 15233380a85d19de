import type { Command } from 'commander';
import { formatTables, legalityTable, readableTable, spanName } from '@/core/formats/legality';
import { print } from '../output';

export function fillFormats(command: Command): void {
  command
    .option('--json', 'print JSON instead of lines')
    .option('--markdown', 'print the tables of the README')
    .action(async ({ json = false, markdown = false }: { json?: boolean; markdown?: boolean }) => {
      if (markdown) {
        await print(formatTables());
        return;
      }
      const [reads, writes] = [readableTable(), legalityTable()];
      if (json) {
        await print(JSON.stringify({ reads, writes }, null, 2));
        return;
      }
      await print('Reads, by what is in the file:');
      for (const { name, codecs } of reads) await print(`  ${name.padEnd(16)}${codecs}`);
      await print('Writes:');
      for (const row of writes) {
        const call = `--format ${row.format} --codec ${row.codec}`;
        const rates =
          row.rates?.join(', ') ?? `any from ${row.rateSpan.fromHz} to ${row.rateSpan.toHz}`;
        await print(`  ${call.padEnd(34)}${row.settings}`);
        await print(`  ${''.padEnd(34)}${rates} Hz; ${spanName(row.channels)} channels`);
      }
    });
}
