import { checkFinished, type Judged } from '@/core/brief/check';
import { unmet } from '@/core/brief/unmet';
import { BijouError, errorFacts, type ErrorFacts } from '@/core/errors';
import { plural } from '@/core/words';
import { finishedFacts } from '@/server/services/cellStates';
import type { BuiltFacts } from '../batch/tasks';
import type { Entry } from './plan';
import type { Existing } from './record';

/** What a file's destination says of it, from what was found in it. */
export function judgedBy(
  { brief, fileId, assignment, needed }: Entry,
  path: string,
  found: BuiltFacts,
): Judged {
  const facts = {
    ...finishedFacts(found),
    wantedTags: needed?.tags,
    fileName: path.split(/[/\\]/).at(-1)!,
  };
  return checkFinished(facts, brief, fileId, assignment.choices.clipping);
}

export function notTaken({ brief }: Entry, findings: Judged['findings']): BijouError {
  const [first] = unmet(findings);
  const hint =
    first?.verdict === 'decide'
      ? 'Make that choice in Pack, then build again.'
      : `The brief "${brief.title}" is not met: change the sound or the choice in Pack.`;
  return new BijouError('not-legal', first?.sentence ?? 'It is not taken.', hint);
}

export function notRead({ sound }: Entry): BijouError {
  return new BijouError(
    'not-found',
    `“${sound.name}” has not been read.`,
    'Start Bijou, and try again.',
  );
}

export function inTheWay(path: string, existing: Existing | undefined): ErrorFacts {
  return errorFacts(
    new BijouError(
      'already-there',
      `Somebody else’s file lies at "${path}", and was left as it is.`,
      existing
        ? 'Take it away, or call again with --existing replace or number.'
        : 'Say once what is done about such files: --existing keep, replace or number.',
    ),
  );
}

export function wrongWay(folder: string, isLink: boolean): BijouError {
  return new BijouError(
    'not-allowed',
    isLink
      ? `"${folder}" is a link that leads out of the folder for results; nothing is written through it.`
      : `"${folder}" is a file, and no folder for results.`,
    'Take it away, or name another folder with --out.',
  );
}

export function cancelled(): BijouError {
  return new BijouError(
    'cancelled',
    'It was stopped.',
    `${plural(1, 'file')} is still to be built.`,
  );
}
