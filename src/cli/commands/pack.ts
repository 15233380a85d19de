import type { Command } from 'commander';
import type { PackOptions } from '../pack/options';

export function fillPack(command: Command, done: (status: number) => void): void {
  const list = (value: string, before: string[] = []) => [...before, value];
  command
    .requiredOption('--project <name>', 'the project, by its name or its id')
    .requiredOption('--brief <id>', 'what is in it; several lie side by side in folders', list)
    .requiredOption('--out <path>', 'a file that ends with .zip, or a folder')
    .option('--title <text>', 'its title, in the place of the one that was set')
    .option('--icon <file>', 'its icon, a PNG, in the place of the one that was given or is drawn')
    .option(
      '--since <pack>',
      'write only what is other than in an earlier pack: its number in Bijou, a zip or a folder',
    )
    .option('--work <dir>', 'keep built files there, so that the next call builds what has changed')
    .option('--overwrite', 'replace a zip that Bijou has not put there')
    .option('--threads <n>', 'how many files are worked on at a time; as many as there are cores')
    .option('--json', 'print a JSON object instead of lines')
    .addHelpText(
      'after',
      '\nWhat is out of date is built first; what Bijou has built already is taken over. A pack is right, or it is not\n' +
        'written: then every reason is said, and the exit status is 1. The host of a destination is asked first. A folder\n' +
        'holds the pack and nothing else; what Bijou has not put there is never replaced, and refused.',
    )
    .action(async (options: PackOptions) => {
      const { runPack } = await import('../pack/run');
      done(await runPack(options));
    });
}
