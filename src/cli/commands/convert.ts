import { lstat, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, extname, join, resolve } from 'node:path';
import type { Command } from 'commander';
import { pieces, type ByteSource } from '@/core/bytes/source';
import { convert, rawDescription, verify, type Conversion } from '@/core/convert';
import { BijouError } from '@/core/errors';
import { openSound } from '@/core/formats/open';
import { writerById } from '@/core/formats/write';
import { probe } from '@/core/measure/probe';
import {
  alreadyThere,
  fileScratch,
  putInPlace,
  withFile,
  writeTemporary,
} from '@/server/files/bytes';
import { Identities } from '../identities';
import { STANDARD, withInput } from '../inputs';
import { makeOutFolder } from '../outFolder';
import { pour } from '../output';
import { eachFile, factsJson, refuseAll } from '../report';
import {
  planOf,
  tagOptions,
  writerSettings,
  type ConvertOptions,
  type Plan,
} from './convertOptions';

export function addConvert(program: Command, done: (status: number) => void): void {
  const list = (value: string, before: string[] = []) => [...before, value];
  program
    .command('convert')
    .description('write each file in another form, decode the result again and report it')
    .argument('<files...>', 'files to convert; - for standard input')
    .requiredOption(
      '--out <dir>',
      'folder for the results, made if not there; - for standard output',
    )
    .option('--format <format>', 'wav, aiff, flac, mp3, ogg, webm, m4a, raw or c', 'wav')
    .option('--codec <codec>', 'where a format has several: pcm, ima-adpcm, vorbis, opus …')
    .option('--bits <depth>', 'WAV: 8, 16, 24, 32f; AIFF, FLAC: 16, 24; raw, c: u8, s8, s16le')
    .option('--bitrate <kbps>', 'MP3, M4A, Opus: kbit/s')
    .option('--quality <q>', 'Vorbis: −1 (small) to 10 (best); MP3: 0 (best) to 9 (small)')
    .option('--level <n>', 'FLAC: 0 (quick) to 8 (small)')
    .option('--rate <hz>', 'sample rate in Hz')
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
    .option('--suffix <text>', 'put behind the name, in front of its ending')
    .option('--raw <what>', 'sources are samples without a header: s16le,44100,2')
    .option('--overwrite', 'replace results that are there already')
    .option('--json', 'print a JSON array instead of lines')
    .action(async (files: string[], options: ConvertOptions) => {
      const target: Target = {
        ...writerSettings(options),
        tags: tagOptions(options),
        keepTags: !options.stripTags,
      };
      const plan = planOf(options);
      const toStandard = options.out === STANDARD;
      if (toStandard && (files.length > 1 || options.channels === 'split' || options.json)) {
        throw new BijouError(
          'wrong-call',
          'Standard output takes the bytes of one result and nothing else.',
          'Give one file, without --json and without splitting, or name a folder with --out.',
        );
      }
      const report = { json: options.json ?? false, toErrors: toStandard };
      try {
        if (!toStandard) await makeOutFolder(options.out);
      } catch (error) {
        if (!(error instanceof BijouError)) throw error;
        done(await refuseAll(files, report.json, error));
        return;
      }
      const sources = await Identities.of(files);
      const names = new Names(options, writerById(target.writer).extension, sources);
      const status = await eachFile(files, report, (file) =>
        withInput(file, (source) => convertFile(file, source, names, target, plan)),
      );
      done(status);
    });
}

type Target = Omit<Conversion, 'recipe'>;

/** Names of the results of one call. */
class Names {
  private readonly taken = new Set<string>();
  private readonly written = new Identities();

  constructor(
    readonly options: ConvertOptions,
    private readonly extension: string,
    /** What the call reads, now or later. */
    private readonly sources: Identities,
  ) {}

  async output(file: string, mark: string): Promise<string> {
    const { out, suffix = '', overwrite } = this.options;
    if (out === STANDARD) return STANDARD;
    const base = file === STANDARD ? 'stdin' : basename(file, extname(file));
    // A suffix is part of a name, never a way to another folder.
    const output = join(out, `${base}${mark}${suffix.replace(/[/\\]/g, '-')}.${this.extension}`);
    const place = resolve(output);
    if (await this.sources.has(place)) {
      const isOwn = await (await Identities.of([file])).has(place);
      throw new BijouError(
        'not-allowed',
        isOwn
          ? 'The result would replace its own source.'
          : `The result would replace "${output}", another source of this call.`,
        'Choose another folder with --out, or a --suffix.',
      );
    }
    if (this.taken.has(place) || (await this.written.has(place))) {
      throw new BijouError(
        'already-there',
        `Another file of this call is already written to "${output}".`,
        'Convert files of one name into different folders.',
      );
    }
    if (!overwrite && (await isThere(place))) throw alreadyThere(output);
    this.taken.add(place);
    return output;
  }

  /** Remembers what a result became on the disk: other names may lead to it. */
  async wrote(output: string): Promise<void> {
    await this.written.add(output);
  }
}

async function isThere(path: string): Promise<boolean> {
  return lstat(path).then(
    () => true,
    () => false,
  );
}

/** Writes every result of one file: one, or one for each channel. */
async function convertFile(
  file: string,
  source: ByteSource,
  names: Names,
  target: Target,
  plan: Plan,
) {
  const { raw } = plan;
  const { header } = await openSound(source, raw);
  const frames = header.frames ?? (await probe(source, { raw })).facts.frames;
  const { sampleRateHz: rateHz, channels: channelCount, speakerMask } = header;
  const before = { rateHz, channelCount, frames, speakerMask };
  const results = [];
  for (const { recipe, mark } of plan.recipes(before)) {
    const output = await names.output(file, mark);
    const conversion = { ...target, settings: named(target, output), recipe };
    results.push(await writeResult(file, output, source, conversion, names, { frames, raw }));
  }
  return {
    line: results.map(({ line }) => line).join('\n'),
    data: plan.isSplit ? { file, outputs: results.map((r) => r.data) } : results[0]!.data,
    warnings: results.flatMap(({ warnings }) => warnings),
  };
}

/** An array in C is called after its file. */
function named({ writer, settings }: Target, output: string): object {
  if (writer !== 'c') return settings;
  const name = basename(output, extname(output))
    .replace(/[^A-Za-z0-9_]/g, '_')
    .slice(0, 60);
  return { ...settings, name: /^[A-Za-z_]/.test(name) ? name : `sound_${name}` };
}

async function writeResult(
  file: string,
  output: string,
  source: ByteSource,
  conversion: Conversion,
  names: Names,
  known: Parameters<typeof convert>[3] & object,
) {
  const { options } = names;
  const toStandard = output === STANDARD;
  const folder = toStandard ? await mkdtemp(join(tmpdir(), 'bijou-')) : options.out;
  const temporary = join(folder, `.bijou-${process.pid}-${Date.now().toString(36)}.part`);
  const drop = () => rm(toStandard ? folder : temporary, { force: true, recursive: toStandard });
  const interrupted = () => void drop().finally(() => process.exit(130));
  process.once('SIGINT', interrupted).once('SIGTERM', interrupted);
  try {
    const scratch = () => fileScratch(`${temporary}-scratch`);
    const converted = await writeTemporary(temporary, (sink) =>
      convert(source, conversion, sink, { ...known, scratch }),
    );
    const { writer, settings } = conversion;
    const raw = rawDescription(writer, settings, converted.expected);
    const verified = await withFile(temporary, (made) => verify(made, converted.expected, raw));
    if (!verified.ok) {
      throw new BijouError(
        'internal',
        `The result is not as it must be and was not kept: ${verified.problems.join(' ')}`,
        'Try another setting, and report this with the file.',
      );
    }
    if (toStandard) {
      await withFile(temporary, async (made) => {
        for await (const piece of pieces(made)) await pour(piece);
      });
    } else {
      await putInPlace(temporary, output, options.overwrite ?? false);
      await names.wrote(output);
    }
    const { bytes } = verified.facts;
    return {
      line:
        `${file} → ${output}  ${source.size} → ${bytes} bytes  ` +
        `÷ ${(source.size / bytes).toFixed(2)} (${((bytes / source.size) * 100).toFixed(1)} %)`,
      data: {
        ...factsJson(file, verified.facts),
        output,
        sourceBytes: source.size,
        ratio: bytes / source.size,
      },
      warnings: converted.warnings.map((warning) => warning.message),
    };
  } finally {
    await drop();
    process.off('SIGINT', interrupted).off('SIGTERM', interrupted);
  }
}
