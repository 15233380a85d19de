import type { Command } from 'commander';
import { USUAL_RUNS } from '@/core/compare/work';
import type { CompareOptions } from '../compare/options';

export function fillCompare(command: Command, done: (status: number) => void): void {
  command
    .argument('<files...>', 'files, folders and patterns to try candidates on')
    .option('--candidates <list>', 'such as ogg/vorbis@q3,mp3@128,mp3@vbr2,wav/pcm@16')
    .option(
      '--set <name>',
      'a ready set: usual, light, fine-mp3-kbps …, or the id of a brief',
      'usual',
    )
    .option('--rate <hz>', 'sample rate of all candidates; as the source without it')
    .option('--channels <layout>', 'mono (mixed) or stereo; as the source without it')
    .option('--voices <n>', 'how many play it at once, for memory', '1')
    .option('--runs <n>', 'how often each is decoded to measure its cost', String(USUAL_RUNS))
    .option('--json', 'print a JSON array instead of lines')
    .option('--csv', 'print a table as CSV')
    .addHelpText(
      'after',
      '\nA candidate is FORMAT[/CODEC][@SETTING]: a bit rate in kbit/s, qNUMBER or vbrNUMBER for a quality, a depth\n' +
        'in bits, or lNUMBER for a level; several with + between them, as in flac@16+l8.',
    )
    .action(async (files: string[], options: CompareOptions) => {
      const { runCompare } = await import('../compare/run');
      done(await runCompare(files, options));
    });
}
