import { count } from '../../tradeNames';
import { plural } from '../../words';
import type { Allowed } from '../characters';
import { levels, MOST_CALLS, MOST_ODDS, MOST_VARIANTS, pitches, ways, type Call } from './calls';

/** Characters of ids, where a layout says nothing else. */
export const ID_CHARACTERS = 'a-z0-9_/-';
const LONGEST_ID = 80;

/** Something about a call that a game would stumble over. */
export interface CallProblem {
  /** Which of the calls, from 0; null for all of them together. */
  index: number | null;
  field: 'id' | 'variants' | 'levelDb' | 'pitch' | 'read' | null;
  message: string;
}

/** What is wrong with calls, whoever wrote them: with ids, doubles, and figures out of their range. */
export function callProblems(
  calls: readonly Call<{ odds: number }>[],
  isAllowed: Allowed,
): CallProblem[] {
  if (calls.length > MOST_CALLS) {
    const message = `There are ${count(calls.length)} calls; the most are ${count(MOST_CALLS)}.`;
    return [{ index: null, field: null, message }];
  }
  const first = new Map<string, number>();
  return calls.flatMap((call, index) => {
    const say = (field: CallProblem['field'], message: string): CallProblem => ({
      index,
      field,
      message,
    });
    const key = call.id.normalize('NFC').toLowerCase();
    const earlier = first.get(key);
    first.set(key, earlier ?? index);
    const problems = [...idProblems(call.id, isAllowed)].map((message) => say('id', message));
    if (earlier !== undefined) {
      const other = calls[earlier]!.id;
      const how = other === call.id ? 'there twice' : `the same as “${other}” but for its case`;
      problems.push(say('id', `“${call.id}” is ${how}.`));
    }
    return [...problems, ...figureProblems(call, say)];
  });
}

function* idProblems(id: string, isAllowed: Allowed): Generator<string> {
  if (id === '') return yield 'A call has no id.';
  const shown = JSON.stringify(id).slice(1, -1);
  if ([...id].length > LONGEST_ID)
    yield `“${shown.slice(0, 40)}…” is longer than ${LONGEST_ID} characters.`;
  const bad = [...new Set([...id].filter((letter) => !isAllowed(letter)))];
  if (bad.length > 0) {
    const isCase = bad.every((letter) => isAllowed(letter.toLowerCase()) && /\p{Lu}/u.test(letter));
    const list = bad
      .slice(0, 5)
      .map((letter) => JSON.stringify(letter).slice(1, -1).replace(' ', 'a blank'))
      .join(', ');
    yield isCase
      ? `“${shown}” has capital letters (${list}); ids are in small ones.`
      : `“${shown}” has what may not be in an id: ${list}`;
  }
  if (/^\/|\/$|\/\//.test(id)) yield `“${shown}” has a part without a name between its slashes.`;
}

function* figureProblems(
  { id, variants, levelDb, pitch, read }: Call<{ odds: number }>,
  say: (field: CallProblem['field'], message: string) => CallProblem,
): Generator<CallProblem> {
  if (variants.length === 0) yield say('variants', `“${id}” has no variant: it would be silent.`);
  if (variants.length > MOST_VARIANTS) {
    yield say(
      'variants',
      `“${id}” has ${plural(variants.length, 'variant')}; the most are ${count(MOST_VARIANTS)}.`,
    );
  }
  const isOdds = (odds: unknown) => typeof odds === 'number' && odds >= 0 && odds <= MOST_ODDS;
  if (!variants.every(({ odds }) => isOdds(odds))) {
    yield say('variants', `Odds in “${id}” are not from 0 to ${count(MOST_ODDS)}.`);
  } else if (variants.length > 0 && variants.every(({ odds }) => odds === 0)) {
    yield say('variants', `All odds in “${id}” are 0: it would be silent.`);
  }
  if (!within(levelDb, levels)) {
    yield say('levelDb', `The level of “${id}” is not from ${levels.from} to ${levels.to} dB.`);
  }
  const [low, high] = Array.isArray(pitch) && pitch.length === 2 ? pitch : [NaN, NaN];
  if (!within(low, pitches) || !within(high, pitches)) {
    yield say(
      'pitch',
      `The pitch of “${id}” is not two factors from ${pitches.from} to ${pitches.to}.`,
    );
  } else if (low > high) {
    yield say('pitch', `The pitch of “${id}” has its higher factor first.`);
  }
  if (!Object.hasOwn(ways, read)) {
    yield say('read', `“${id}” is read neither “whole” nor “piecewise”.`);
  }
}

function within(value: unknown, { from, to }: { from: number; to: number }): boolean {
  return typeof value === 'number' && value >= from && value <= to;
}
