import type { Command } from 'commander';
import { builtinBriefs } from '@/core/brief/builtin';
import type { CheckOptions } from '../probe/options';

export function fillCheck(command: Command, done: (status: number) => void): void {
  command
    .argument('<files...>', 'finished files; - for standard input')
    // Left out, every brief is asked.
    .option(
      '--brief <id>',
      `one of ${builtinBriefs.map((brief) => brief.id).join(', ')}, or the file of another; all without it`,
    )
    .option('--json', 'print a JSON array instead of lines')
    .action(async (files: string[], options: CheckOptions) => {
      const { runCheck } = await import('../probe/check');
      done(await runCheck(files, options));
    });
}
