import type { Command } from 'commander';
import type { MakeOptions, ShowOptions } from '../loop/options';
import { formatOptions } from './formatOptions';

export function fillLoop(command: Command, done: (status: number) => void): void {
  const list = (value: string, before: string[] = []) => [...before, value];
  command
    .command('show')
    .description('say where each file loops and how little one hears of its seam')
    .exitOverride()
    .argument('<files...>', 'files, folders and patterns; - for standard input')
    .option('--start <time>', 'where the loop begins: 5, 0:05.250 or 220500f')
    .option('--end <time>', 'where it ends; that frame is not in it any more')
    .option('--raw <what>', 'samples without a header: s16le,44100,2')
    .option('--threads <n>', 'how many files are looked at at a time')
    .option('--json', 'print a JSON array instead of lines')
    .option('--json-lines', 'print one JSON object a line, each as soon as it is there')
    .addHelpText('after', `\n${WHICH_LOOP}`)
    .action(async (files: string[], options: ShowOptions) => {
      const { runShow } = await import('../loop/show');
      done(await runShow(files, options));
    });
  formatOptions(
    command
      .command('make')
      .description('make the end of each loop go on in its start, as one file or in pieces')
      .exitOverride()
      .argument('<files...>', 'files, folders and patterns; - for standard input')
      .requiredOption('--out <dir>', 'folder for the results, made if not there')
      .option('--start <time>', 'where the loop begins: 5, 0:05.250 or 220500f')
      .option('--end <time>', 'where it ends; that frame is not in it any more')
      .option('--intro-from <time>', 'where the intro begins; at the beginning without it')
      .option(
        '--crossfade <time[,curve]>',
        'for beds: the end fades into what leads up to the start; equal-power, linear, correlation',
      )
      .option(
        '--wrap-tail <time[,db]>',
        'for music: so much of what rings behind the end lies under the start of every repeat',
      )
      .option('--parts', 'write intro, first pass and repeat pass as files of their own')
      .option(
        '--listening-copy <n[,after,fade]>',
        'so many passes; the last one fades after 15 s, over 5 s. An MP3 unless --format says otherwise',
      )
      .option('--handover', 'the parts, a listening copy, and a cue sheet in words and JSON')
      .option('--unroll', 'make a loop that runs back and forth run forward')
      .option('--format <format>', 'wav (without it), aiff, flac, mp3, ogg, webm, m4a, raw or c'),
  )
    .option('--channels <layout>', 'mono (all mixed), left, right, stereo or swap')
    .option('--gain <db>', 'change the level of all that is written')
    .option('--tag <name=text>', 'set a tag; may be given several times', list)
    .option('--strip-tags', 'leave the tags of the source out')
    .option('--raw <what>', 'sources are samples without a header: s16le,44100,2')
    .option('--threads <n>', 'how many files are worked on at a time')
    .option('--overwrite', 'replace results that are there already')
    .option('--json', 'print a JSON array instead of lines')
    .option('--json-lines', 'print one JSON object a line, each as soon as it is there')
    .addHelpText(
      'after',
      `\n${WHICH_LOOP}\nWithout --parts it is one file with loop points where the format holds them.`,
    )
    .action(async (files: string[], options: MakeOptions) => {
      const { runMake } = await import('../loop/make');
      done(await runMake(files, options));
    });
}

const WHICH_LOOP =
  'Without --start and --end: the loop that the file states, else the whole sound.';
