import { afterWhite, type Fault, type Frame, type State } from './grammar';

/** One change of a text: so many characters go, and others come. */
export interface Edit {
  at: number;
  remove: number;
  insert: string;
}

/** What might mend a fault: changes, in their order, behind a state that was right. */
export interface Candidate {
  from: State;
  edits: Edit[];
  /** What was wrong, for a sentence. */
  what: string;
  /** Of equal ones the least is taken: what adds a sign before what changes or takes one away. */
  cost: number;
}

/** Longer strings than that are not looked through for the place where they should have ended. */
const MOST_STRING = 2_000;

const names: Record<string, string> = {
  '"': 'a quotation mark',
  ',': 'a comma',
  ':': 'a colon',
  '[': 'an opening square bracket',
  ']': 'a closing square bracket',
  '{': 'an opening brace',
  '}': 'a closing brace',
};

/** Everything that might mend a fault, out of the states that led to it. */
export function* candidates(
  text: string,
  fault: Fault,
  recent: readonly State[],
): Generator<Candidate> {
  const states = new Set([...recent, ...framesOf(recent.at(-1)?.open ?? null)]);
  for (const state of states) yield* missing(text, state);
  for (const state of recent) yield* ownHabits(text, state, fault.at);
}

/** Where what is open now began, and the last thing in it: a bracket may be missing there. */
function framesOf(frame: Frame | null): State[] {
  if (!frame) return [];
  const last = frame.last ? [{ ...frame.last, open: { ...frame, last: null } }] : [];
  return [frame.before, ...last, ...framesOf(frame.around)];
}

function* missing(text: string, from: State): Generator<Candidate> {
  const { at, expected } = from;
  const next = afterWhite(text, at);
  const put = (sign: string, place: number): Candidate => ({
    from,
    edits: [{ at: place, remove: 0, insert: sign }],
    what: `${names[sign]} is missing`,
    cost: 0,
  });
  const isThere = text[next];
  if (expected === 'colon') yield put(':', at);
  if (expected === 'more') {
    yield put(',', at);
    yield put(from.open!.kind === '{' ? '}' : ']', at);
  }
  if (expected === 'key-or-end') yield put('}', at);
  if (expected === 'value-or-end') yield put(']', at);
  if (expected === 'value' || expected === 'value-or-end') {
    yield put('[', next);
    yield put('{', next);
  }
  if (expected === 'more' || expected === 'end' || expected === 'colon') return;
  if (isThere === '"') {
    for (const end of placesInString(text, next)) yield put('"', end);
  } else {
    yield put('"', next);
    const number = /-?[\d.]+/y;
    number.lastIndex = next;
    const digits = number.exec(text)?.[0].length ?? 0;
    for (let i = 1; i < Math.min(digits, 24); i++) yield put(',', next + i);
  }
}

/** Where a string might have had its end: in front of signs, words and the end of the line. */
function* placesInString(text: string, start: number): Generator<number> {
  for (let i = start + 1; i <= Math.min(text.length, start + MOST_STRING); i++) {
    const sign = text[i];
    if (sign === undefined || /[,:\]}\s/"]/.test(sign)) yield i;
    if (sign === undefined || sign === '\n') return;
    if (sign === '"' && text[i - 1] !== '\\') return;
  }
}

const words: Record<string, string> = {
  True: 'true',
  TRUE: 'true',
  False: 'false',
  FALSE: 'false',
  None: 'null',
  undefined: 'null',
  NaN: 'null',
};

/** What other notations have and JSON has not, at the fault. */
function* ownHabits(text: string, from: State, faultAt: number): Generator<Candidate> {
  const next = afterWhite(text, from.at);
  if (next !== faultAt) return;
  const rest = text.slice(next, next + MOST_STRING);
  const sign = rest[0] ?? '';
  const change = (
    what: string,
    cost: number,
    ...edits: [at: number, remove: number, insert: string][]
  ): Candidate => ({
    from,
    what,
    cost,
    edits: edits.map(([at, remove, insert]) => ({ at, remove, insert })),
  });
  const comment = /^(?:\/\/|#)[^\n]*|^\/\*[^]*?\*\//.exec(rest)?.[0];
  if (comment) yield change('there are no comments in JSON', 0, [next, comment.length, '']);
  const quoted = /^(['‘’“”„«])([^'‘’“”»"\n]*)(['‘’“”»"])/.exec(rest);
  if (quoted) {
    yield change(
      `${sign} is no quotation mark of JSON`,
      1,
      [next, 1, '"'],
      [next + quoted[0].length - 1, 1, '"'],
    );
  }
  const bare = /^[\p{L}_$][\w$/.\-]*/u.exec(rest)?.[0];
  if (bare) {
    const meant = words[bare];
    if (meant) yield change(`${bare} is no word of JSON`, 0, [next, bare.length, meant]);
    yield change(
      `“${bare}” has no quotation marks`,
      1,
      [next, 0, '"'],
      [next + bare.length, 0, '"'],
    );
  }
  if (/^\.\d/.test(rest)) yield change('a number begins with a digit', 0, [next, 0, '0']);
  if (/^\+\d/.test(rest)) yield change('a number has no plus sign', 0, [next, 1, '']);
  const zeros = /^-?(0+)\d/.exec(rest);
  if (zeros) {
    const at = next + zeros[0].length - 1 - zeros[1]!.length;
    yield change('a number has no zeros in front', 0, [at, zeros[1]!.length, '']);
  }
  if (sign === '=' || sign === ';') {
    const meant = from.expected === 'colon' ? ':' : ',';
    yield change(`${sign} stands where ${names[meant]} belongs`, 1, [next, 1, meant]);
  }
  if (from.expected === 'colon' && sign === ',') {
    yield change('a comma stands where a colon belongs', 1, [next, 1, ':']);
  }
  if (from.expected === 'more' && sign === ':') {
    yield change('a colon stands where a comma belongs', 1, [next, 1, ',']);
  }
  const name = names[sign];
  if (name) yield change(`${name} is too much`, 2, [next, 1, '']);
  // As a list looks from which the last thing was taken.
  const isListEnd = /^[\]}]/.test(rest) && text[from.at - 1] === ',';
  if (isListEnd) yield change('a comma is too much', -1, [from.at - 1, 1, '']);
}

/**
 * 0 where a bracket that was taken out of a text in several lines has left its trace, 1 elsewhere: an empty line, a
 * comma or a value that begins a line.
 */
export function scarOf(text: string, { from, edits: [edit] }: Candidate): 0 | 1 {
  const { insert, remove } = edit!;
  if (remove > 0 || !/^[[\]{}]$/.test(insert)) return 1;
  const next = afterWhite(text, from.at);
  const gap = text.slice(from.at, next);
  if (/\n[ \t\r]*\n/.test(gap)) return 0;
  if (!gap.includes('\n')) return 1;
  const isClosing = insert === ']' || insert === '}';
  const isScar = isClosing
    ? text[next] === ','
    : from.expected === 'value' && from.open?.kind === '{';
  return isScar ? 0 : 1;
}

/** Whatever closes what is still open where a text ends too early; null where a value would have to be made up. */
export function ending(text: string, fault: Fault, from: State): Candidate | null {
  const isInString = fault.openString !== undefined;
  const isClosable = isInString ? from.expected.startsWith('value') : from.expected === 'more';
  const comma = /,\s*$/.exec(text);
  if (!from.open || (!isClosable && !comma)) return null;
  let closing = isInString ? '"' : '';
  for (let frame: Frame | null = from.open; frame; frame = frame.around) {
    closing += frame.kind === '{' ? '}' : ']';
  }
  const end = text.trimEnd().length;
  const edit = comma
    ? { at: end - 1, remove: 1, insert: closing }
    : { at: end, remove: 0, insert: closing };
  return { from, edits: [edit], what: 'the text ends too early', cost: 0 };
}
