import type { Command } from 'commander';
import type { ProbeOptions } from '../probe/options';

export function fillProbe(command: Command, done: (status: number) => void): void {
  command
    .argument('<files...>', 'files, folders and patterns to look at; - for standard input')
    .option('--json', 'print a JSON array instead of lines')
    .option('--json-lines', 'print one JSON object a line, each as soon as it is there')
    .option('--csv', 'print the table of Collect as CSV')
    .option('--clicks', 'list what --declick would mend, and change nothing')
    .option('--raw <what>', 'samples without a header: encoding,rate,channels as in s16le,44100,2')
    .option('--threads <n>', 'how many files are read at a time; as many as there are cores')
    .action(async (named: string[], options: ProbeOptions) => {
      const { runProbe } = await import('../probe/run');
      done(await runProbe(named, options));
    });
}
