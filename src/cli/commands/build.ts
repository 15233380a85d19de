import type { Command } from 'commander';
import type { BuildOptions } from '../build/options';

export function fillBuild(command: Command, done: (status: number) => void): void {
  const list = (value: string, before: string[] = []) => [...before, value];
  command
    .requiredOption('--project <name>', 'the project, by its name or its id')
    .option('--brief <id>', 'only what goes to this destination; may be given several times', list)
    .option(
      '--only <glob>',
      'only sounds of this name, "voices/**" with their groups; several',
      list,
    )
    .requiredOption('--out <dir>', 'folder for the results, with a folder for each destination')
    .option(
      '--existing <way>',
      'what to do about files of others in there: keep, replace or number; remembered in the folder',
    )
    .option('--threads <n>', 'how many files are worked on at a time; as many as there are cores')
    .option('--dry-run', 'write nothing; say what would be built')
    .option('--json', 'print a JSON object instead of lines')
    .addHelpText(
      'after',
      '\nThe project is found in BIJOU_DATA (default ./data), also while Bijou is running. What was built into the\n' +
        'folder before and has not changed is left as it is.',
    )
    .action(async (options: BuildOptions) => {
      const { runBuild } = await import('../build/run');
      done(await runBuild(options));
    });
}
