import type { Command } from 'commander';
import type { ConvertOptions } from '../convert/options';
import { formatOptions } from './formatOptions';

export function fillConvert(command: Command, done: (status: number) => void): void {
  const list = (value: string, before: string[] = []) => [...before, value];
  formatOptions(
    command
      .argument('<files...>', 'files, folders and patterns to convert; - for standard input')
      .requiredOption(
        '--out <dir>',
        'folder for the results, made if not there; - for standard output',
      )
      .option('--format <format>', 'wav, aiff, flac, mp3, ogg, webm, m4a, raw or c', 'wav'),
  )
    .option(
      '--channels <layout>',
      'mono (all mixed), left, right, stereo, swap, or split into files',
    )
    .option('--from <time>', 'where to begin: 5, 0:05.250 or 220500f')
    .option('--to <time>', 'where to end')
    .option('--fade-in <time[,shape]>', 'shapes: linear, equal-power, exponential, s')
    .option('--fade-out <time[,shape]>', 'its last frame is silence')
    .option('--gain <db>', 'change the level')
    .option('--normalise <what=level>', 'peak=-1, true-peak=-1 or lufs=-16')
    .option('--together', 'normalise with one gain for all files: the loudest reaches the level')
    .option('--ceiling <dbtp>', 'true peak that normalising does not go beyond')
    .option('--if-short <what>', 'what is too short to have a loudness: momentary, peak or refuse')
    .option('--limit <dbtp>', 'turn loud moments down to this true peak, at the end')
    .option('--relabel <hz>', 'correct a wrong rate: nothing is resampled, the length changes')
    .option('--speed <factor>', 'faster above 1, the pitch along with it')
    .option('--reverse', 'play it backwards')
    .option('--polarity', 'turn the polarity round')
    .option('--remove-dc', 'take the DC offset out')
    .option('--declick', 'find clicks and mend them')
    .option('--tag <name=text>', 'set a tag; may be given several times', list)
    .option('--strip-tags', 'leave the tags of the source out')
    .option(
      '--name <pattern>',
      'such as "{n:3}-{name}-{codec}"; also {group} {rate} {channels} {format}',
    )
    .option('--suffix <text>', 'put behind the name, in front of its ending')
    .option('--raw <what>', 'sources are samples without a header: s16le,44100,2')
    .option('--strict', 'refuse what the format cannot hold, in place of the nearest that it can')
    .option('--dry-run', 'write nothing; say what would be written, with its estimated bytes')
    .option('--threads <n>', 'how many files are worked on at a time; as many as there are cores')
    .option('--overwrite', 'replace results that are there already')
    .option('--json', 'print a JSON array instead of lines')
    .option('--json-lines', 'print one JSON object a line, each as soon as it is there')
    .addHelpText(
      'after',
      '\nRate, channels and depth stay as the source has them; what the format cannot hold goes to the nearest\n' +
        'that it can, which is said.',
    )
    .action(async (files: string[], options: ConvertOptions) => {
      const { runConvert } = await import('../convert/run');
      done(await runConvert(files, options));
    });
}
