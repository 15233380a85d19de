import { MOST_CALLS, type Call, type PathVariant } from '../../pack/calls/calls';
import { readIndex } from '../../pack/calls/readIndex';
import { count } from '../../tradeNames';
import { plural } from '../../words';
import type { Checking } from '../checks';
import { MOST_INDEX_BYTES, MOST_SAID } from '../limits';
import type { FoundFile } from '../pack';
import { readText } from '../text';

/** Factors of speed and pitch that the island plays. */
export const playedPitch = { from: 0.5, to: 2 } as const;

/** Reads the index of calls and holds it against the files that there are; none where it is refused. */
export async function readCalls(
  file: FoundFile,
  there: ReadonlySet<string>,
  checking: Checking,
): Promise<Call<PathVariant>[]> {
  const text = await readText(file, checking, MOST_INDEX_BYTES);
  if (text === null) return [];
  const { path } = file;
  const asked = 'an index of calls';
  // A call takes at least two brackets: whatever has more of them than all calls together could need is not read.
  const brackets = countOf(text, '{');
  if (brackets > MOST_BRACKETS) {
    const found = `${count(brackets)} brackets: more than ${count(MOST_CALLS)} calls`;
    checking.refuse(path, { rule: 'calls', asked, found, cure: 'Leave out what nobody plays.' });
    return [];
  }
  const { problems, index } = readIndex(text, null);
  if (!index && problems.length === 0) {
    const found = 'no list “calls”';
    checking.refuse(path, { rule: 'calls', asked, found, cure: 'Make it of the sounds’ names.' });
    return [];
  }
  for (const { line, column, message, mend } of problems.slice(0, MOST_SAID)) {
    const place = `line ${line}, column ${column}: `;
    checking.refuse(path, {
      rule: 'calls',
      asked,
      found: `${place}${message.replace(/\.$/, '')}`,
      cure: mend ?? 'Correct it there.',
    });
  }
  if (problems.length > MOST_SAID) {
    checking.say(`${path} has ${plural(problems.length - MOST_SAID, 'problem')} more.`);
  }
  if (!index || problems.length > 0) return [];
  checking.met(path, 'calls', asked, plural(index.length, 'call'));
  refuseMissing(path, index, there, checking);
  warnOfPitch(path, index, checking);
  return index;
}

/** Every call with all its variants, and some to spare. */
const MOST_BRACKETS = 10 * MOST_CALLS;

function countOf(text: string, letter: string): number {
  let found = 0;
  for (let at = text.indexOf(letter); at >= 0; at = text.indexOf(letter, at + 1)) found++;
  return found;
}

function refuseMissing(
  path: string,
  index: readonly Call<PathVariant>[],
  there: ReadonlySet<string>,
  checking: Checking,
): void {
  const missing = index.flatMap(({ id, variants }) =>
    variants.filter((one) => !there.has(one.path)).map((one) => ({ id, file: one.path })),
  );
  for (const { id, file } of missing.slice(0, MOST_SAID)) {
    checking.refuse(path, {
      rule: 'call-files',
      asked: 'calls of files that are there',
      found: `“${id}” plays ${file || 'a file without a name'}, which is not there`,
      cure: 'Put the file into the pack, or take it out of the call.',
      call: id,
    });
  }
  if (missing.length === 0) {
    checking.met(path, 'call-files', 'calls of files that are there', 'all there');
  } else if (missing.length > MOST_SAID) {
    checking.say(`${plural(missing.length - MOST_SAID, 'file')} more of calls are not there.`);
  }
}

function warnOfPitch(path: string, index: readonly Call<PathVariant>[], checking: Checking): void {
  const { from, to } = playedPitch;
  const beyond = index.filter(({ pitch: [low, high] }) => low < from || high > to);
  for (const { id, pitch } of beyond.slice(0, MOST_SAID)) {
    checking.warn(path, {
      rule: 'pitch',
      asked: `factors of pitch from ${from} to ${to}`,
      found: `“${id}” from ${pitch[0]} to ${pitch[1]}`,
      cure: 'The island holds it within its own span; choose a narrower one.',
      call: id,
    });
  }
}
