import { constants, copyFile, readFile, realpath, rename, stat } from 'node:fs/promises';
import { basename, dirname, extname, join, relative, resolve } from 'node:path';
import { BijouError } from '@/core/errors';
import { encodeText } from '@/core/formats/bits';
import { readIndex, type IndexReport } from '@/core/pack/calls/readIndex';
import { plural } from '@/core/words';
import { writeTemporary } from '@/server/files/bytes';
import { dropTemporary, temporaryIn } from '../disk/temporaries';
import { filesIn } from '../disk/walk';
import { printOn } from '../output';
import { STATUS } from '../status';
import type { IndexOptions } from './options';

/** A larger file is no index. */
const MOST_BYTES = 64e6;

/** Looks at an index and mends it where that is asked for. Answers the exit status. */
export async function runIndex(file: string, options: IndexOptions): Promise<number> {
  const text = await textOf(file);
  const there = options.root === undefined ? null : await soundsIn(options.root, file);
  const found = readIndex(text, there);
  const canMend = options.mend === true && found.mended !== null && found.mended !== text;
  if (canMend) await replace(file, found.mended!);
  // After mending it is judged as it is then.
  const left = canMend ? readIndex(found.mended!, there) : found;
  const isValid = left.problems.length === 0 && (left.missing ?? []).length === 0;
  if (options.json) await printOn(JSON.stringify(reportJson(found, isValid), null, 2));
  else await tell(file, found, { isValid, isMended: canMend });
  return isValid ? STATUS.done : STATUS.someFailed;
}

async function textOf(file: string): Promise<string> {
  const found = await stat(file).catch(() => null);
  if (!found?.isFile()) {
    throw new BijouError(
      'not-found',
      found ? `"${file}" is no plain file.` : `There is no file "${file}".`,
      'Check its name.',
    );
  }
  if (found.size > MOST_BYTES) {
    throw new BijouError(
      'too-large',
      `"${file}" is too large for an index.`,
      'Is it the right file?',
    );
  }
  const bytes = await readFile(file);
  const decoder = new TextDecoder('utf-8', { fatal: true, ignoreBOM: true });
  try {
    return decoder.decode(bytes);
  } catch {
    throw new BijouError('not-legal', `"${file}" is no text in UTF-8.`, 'Save it as UTF-8.');
  }
}

/** The files of a folder, without the index itself. @throws not-found */
async function soundsIn(root: string, index: string): Promise<string[]> {
  const folder = resolve(root);
  const found = await stat(folder).catch(() => null);
  if (!found?.isDirectory()) {
    throw new BijouError('not-found', `There is no folder "${root}".`, 'Check --root.');
  }
  const own = relative(folder, resolve(index)).split('\\').join('/');
  return (await filesIn(folder)).filter((path) => path !== own);
}

/** Puts the mended text in place, whole; what was there stays beside it. */
async function replace(named: string, text: string): Promise<void> {
  // A link stays one: what it leads to is mended.
  const file = await realpath(named);
  const ending = extname(file);
  const base = join(dirname(file), basename(file, ending));
  const temporary = temporaryIn(dirname(file));
  try {
    await writeTemporary(temporary, (sink) => sink.write(encodeText(text)));
    for (let n = 1; ; n++) {
      const kept = `${base} unmended${n === 1 ? '' : ` ${n}`}${ending}`;
      try {
        await copyFile(file, kept, constants.COPYFILE_EXCL);
        break;
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
      }
    }
    await rename(temporary, file);
  } finally {
    await dropTemporary(temporary);
  }
}

/** The stable JSON fields; see the README. */
function reportJson({ problems, missing, unused, calls }: IndexReport, valid: boolean) {
  return {
    valid,
    problems: problems.map(({ line, column, message, mend }) => ({
      line,
      column,
      message,
      ...(mend !== undefined && { mend }),
    })),
    missing: missing ?? [],
    unused: unused ?? [],
    calls,
  };
}

async function tell(
  file: string,
  { problems, missing, unused, calls }: IndexReport,
  { isValid, isMended }: { isValid: boolean; isMended: boolean },
): Promise<void> {
  for (const { line, column, message, mend } of problems) {
    await printOn(`${file}:${line}:${column}: ${message}${mend ? ` (${mend})` : ''}`);
  }
  for (const path of missing ?? []) await printOn(`${file}: "${path}" is not there`);
  for (const path of unused ?? []) await printOn(`${file}: nothing plays "${path}"`);
  const files = calls.reduce((sum, one) => sum + one.files.length, 0);
  const verdict = isValid ? 'is right' : 'is not right';
  await printOn(
    `${file} ${isMended ? 'has been mended, and ' : ''}${verdict}: ${plural(calls.length, 'call')}, ${plural(files, 'file')}.`,
  );
}
