import { access, mkdir, realpath, rm } from 'node:fs/promises';
import { basename, extname, join, resolve } from 'node:path';
import type { Command } from 'commander';
import { convert, verify } from '@/core/convert';
import { BijouError } from '@/core/errors';
import { openSound } from '@/core/formats/open';
import { checkedSettings, writerById } from '@/core/formats/write';
import { probe } from '@/core/measure/probe';
import { shapeAfter } from '@/core/recipe/recipe';
import { alreadyThere, putInPlace, withFile, writeTemporary } from '@/server/files/bytes';
import { mostBytes, tooLarge } from '@/server/limits';
import { eachFile, factsJson } from '../report';
import { recipeFor, shapeOptions, writerSettings, type ConvertOptions } from './convertOptions';

export function addConvert(program: Command, done: (status: number) => void): void {
  program
    .command('convert')
    .description('write each file in another form, decode the result again and report it')
    .argument('<files...>', 'files to convert')
    .requiredOption('--out <dir>', 'folder for the results; it is made if it is not there')
    .option('--format <format>', 'wav, mp3, ogg or m4a', 'wav')
    .option('--bits <depth>', 'WAV: 16, 24 or 32f (float)')
    .option('--bitrate <kbps>', 'MP3, M4A: kbit/s')
    .option('--quality <q>', 'Ogg: −1 (small) to 10 (best); MP3: 0 (best) to 9 (small)')
    .option('--rate <hz>', 'sample rate in Hz')
    .option('--channels <layout>', 'mono (both mixed), left, right or stereo')
    .option('--from <time>', 'where to begin: 5, 0:05.250 or 220500f')
    .option('--to <time>', 'where to end')
    .option('--overwrite', 'replace results that are there already')
    .option('--json', 'print a JSON array instead of lines')
    .action(async (files: string[], options: ConvertOptions) => {
      const target = writerSettings(options);
      const shape = shapeOptions(options);
      await mkdir(options.out, { recursive: true });
      const taken = new Set<string>();
      const status = await eachFile(files, options.json ?? false, async (file) => {
        const output = await outputPath(file, options, writerById(target.writer).extension, taken);
        return convertFile(file, output, options, target, shape);
      });
      done(status);
    });
}

async function outputPath(
  file: string,
  options: ConvertOptions,
  extension: string,
  taken: Set<string>,
): Promise<string> {
  const output = join(options.out, `${basename(file, extname(file))}.${extension}`);
  const place = resolve(output);
  if (await isSameFile(file, place)) {
    throw new BijouError(
      'not-allowed',
      'The result would replace its own source.',
      'Choose another folder with --out.',
    );
  }
  if (taken.has(place)) {
    throw new BijouError(
      'already-there',
      `Another file of this call is already written to "${output}".`,
      'Convert files of one name into different folders.',
    );
  }
  if (!options.overwrite && (await isThere(place))) throw alreadyThere(output);
  taken.add(place);
  return output;
}

async function isThere(path: string): Promise<boolean> {
  return access(path).then(
    () => true,
    () => false,
  );
}

async function isSameFile(a: string, b: string): Promise<boolean> {
  const [realA, realB] = await Promise.all([a, b].map((path) => realpath(path).catch(() => null)));
  return realA !== null && realA === realB;
}

async function convertFile(
  file: string,
  output: string,
  options: ConvertOptions,
  target: ReturnType<typeof writerSettings>,
  shape: ReturnType<typeof shapeOptions>,
) {
  const temporary = join(options.out, `.bijou-${process.pid}-${Date.now().toString(36)}.part`);
  const drop = () => rm(temporary, { force: true });
  const interrupted = () => void drop().finally(() => process.exit(130));
  process.once('SIGINT', interrupted).once('SIGTERM', interrupted);
  try {
    const { sourceBytes, converted } = await withFile(file, async (source) => {
      if (source.size > mostBytes()) throw tooLarge();
      const { header } = await openSound(source);
      const frames = header.frames ?? (await probe(source)).facts.frames;
      const before = { rateHz: header.sampleRateHz, channelCount: header.channels, frames };
      const recipe = recipeFor(options, shape, before);
      const after = shapeAfter(recipe, before);
      // Refused before anything is written.
      checkedSettings(writerById(target.writer), target.settings, after.rateHz, after.channelCount);
      const result = await writeTemporary(temporary, (sink) =>
        convert(source, { recipe, ...target }, sink, { frames }),
      );
      return { sourceBytes: source.size, converted: result };
    });
    const verified = await withFile(temporary, (source) => verify(source, converted.expected));
    if (!verified.ok) {
      throw new BijouError(
        'internal',
        `The result is not as it must be and was not kept: ${verified.problems.join(' ')}`,
        'Try another setting, and report this with the file.',
      );
    }
    await putInPlace(temporary, output, options.overwrite ?? false);
    const { bytes } = verified.facts;
    return {
      line:
        `${file} → ${output}  ${sourceBytes} → ${bytes} bytes  ` +
        `÷ ${(sourceBytes / bytes).toFixed(2)} (${((bytes / sourceBytes) * 100).toFixed(1)} %)`,
      data: {
        ...factsJson(file, verified.facts),
        output,
        sourceBytes,
        ratio: bytes / sourceBytes,
      },
      warnings: converted.warnings.map((warning) => warning.message),
    };
  } finally {
    await drop();
    process.off('SIGINT', interrupted).off('SIGTERM', interrupted);
  }
}
