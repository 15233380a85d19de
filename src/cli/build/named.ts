import { readFile, stat } from 'node:fs/promises';
import { builtinBriefs } from '@/core/brief/builtin';
import { briefById } from '@/core/brief/catalogue';
import { MOST_BRIEF_BYTES, readBriefFile, unknownText } from '@/core/brief/exchange';
import type { Brief } from '@/core/brief/schema';
import { BijouError } from '@/core/errors';
import { say } from '../output';

/** A brief that comes with Bijou, by its id, or one by its file. @throws not-found, too-large, bad-setting */
export async function briefNamed(named: string): Promise<Brief> {
  const known = builtinBriefs.find(({ id }) => id === named);
  if (known) return known;
  const found = await stat(named).catch(() => null);
  if (!found?.isFile()) {
    if (/[./\\]/.test(named)) throw noFile(named);
    return briefById(builtinBriefs, named);
  }
  if (found.size > MOST_BRIEF_BYTES) {
    throw new BijouError(
      'too-large',
      `"${named}" is much too large for a brief.`,
      'A brief is a small JSON file, as `bijou briefs --json` prints it.',
    );
  }
  const { brief, unknown } = readBriefFile(await readFile(named, 'utf8'));
  if (unknown.length > 0) say(`${named}: ${unknownText(unknown)}`);
  return brief;
}

function noFile(named: string): BijouError {
  return new BijouError(
    'not-found',
    `There is no brief in "${named}".`,
    'Check the name of the file.',
  );
}
