import type { Command } from 'commander';
import { references, usualReference } from '@/core/compare/reference';
import type { ReferenceOptions } from '../compare/options';

export function fillReference(command: Command, done: (status: number) => void): void {
  const names = references.map(({ id, says }) => `  ${id.padEnd(14)}${says}`);
  command
    .argument('<name>', 'which signal')
    .requiredOption('--out <file>', 'where to write it: .wav, .aiff or .flac, 24-bit')
    .option('--seconds <s>', 'how long it is', String(usualReference.seconds))
    .option('--rate <hz>', 'its sample rate', String(usualReference.rateHz))
    .option('--overwrite', 'replace a file that is there already')
    .addHelpText('after', `\nSignals:\n${names.join('\n')}`)
    .action(async (name: string, options: ReferenceOptions) => {
      const { runReference } = await import('../compare/reference');
      done(await runReference(name, options));
    });
}
