import type { Command } from 'commander';
import { briefById } from '@/core/brief/catalogue';
import { builtinBriefs } from '@/core/brief/builtin';
import { checkFinished } from '@/core/brief/check';
import { eachFile, factsJson } from '../report';
import { probeFile } from './probe';

export function addCheck(program: Command, done: (status: number) => void): void {
  program
    .command('check')
    .description('say whether a destination would take these files as they are, and if not, why')
    .argument('<files...>', 'finished files; - for standard input')
    .requiredOption('--brief <id>', builtinBriefs.map((brief) => brief.id).join(', '))
    .option('--json', 'print a JSON array instead of lines')
    .action(async (files: string[], options: { brief: string; json?: boolean }) => {
      const brief = briefById(builtinBriefs, options.brief);
      const status = await eachFile(files, { json: options.json ?? false }, async (file) => {
        const { facts, warnings } = await probeFile(file);
        const { accepted, findings } = checkFinished(facts, brief);
        const reasons = findings
          .filter((finding) => finding.verdict !== 'met')
          .map(({ requirement, found, wanted }) => `${requirement}: ${found}, wanted ${wanted}`);
        return {
          line: accepted
            ? `${file}  accepted by "${brief.title}"`
            : `${file}  not accepted by "${brief.title}": ${reasons.join('; ')}`,
          data: { ...factsJson(file, facts), brief: brief.id, accepted, findings },
          warnings: warnings.map((warning) => warning.message),
          failed: !accepted,
        };
      });
      done(status);
    });
}
