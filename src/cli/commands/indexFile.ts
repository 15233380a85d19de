import type { Command } from 'commander';
import type { IndexOptions } from '../index/options';

export function fillIndex(command: Command, done: (status: number) => void): void {
  command
    .command('check <file>')
    .description('say what is wrong in an index, which files it names, and which of them are there')
    .exitOverride()
    .option('--root <dir>', 'the folder in which its files lie; else nobody looks for them')
    .option('--mend', 'write it as it should be; what was there is kept beside it, as “… unmended”')
    .option('--json', 'print a JSON object instead of lines')
    .addHelpText(
      'after',
      '\nTakes our own index of calls, and any JSON that names files of sounds. Exit 0 when it is right, or has been\n' +
        'mended to be; 1 when it is not.',
    )
    .action(async (file: string, options: IndexOptions) => {
      const { runIndex } = await import('../index/run');
      done(await runIndex(file, options));
    });
}
