import type { Command } from 'commander';
import type { RehearseOptions } from '../rehearse/options';

export function fillRehearse(command: Command, done: (status: number) => void): void {
  command
    .argument('<pack>', 'a zip, or the folder of one that was unpacked')
    .requiredOption('--host <id>', 'the stand-in that is to take it: filter or mod')
    .option('--folder <name>', 'what lies in that folder of the pack alone, as if it were all')
    .option('--json', 'print a JSON object instead of lines')
    .addHelpText(
      'after',
      '\nThe host looks at every file as strictly as what it stands in for, and says why it refuses what it refuses.\n' +
        'Exit 0 when the pack is accepted, 1 when it is refused.',
    )
    .action(async (pack: string, options: RehearseOptions) => {
      const { runRehearse } = await import('../rehearse/run');
      done(await runRehearse(pack, options));
    });
}
