import { MOST_DEPTH } from '../../nesting';

/**
 * JSON (RFC 8259) as an automaton of small steps. It can go on from any state that it has been in, so that what
 * would mend a text can be tried without reading it from its beginning.
 */

/** What may come next. */
type Expected =
  /** Anything that is a value; behind "[" also "]". */
  | 'value'
  | 'value-or-end'
  /** A name in quotes; behind "{" also "}". */
  | 'key'
  | 'key-or-end'
  | 'colon'
  /** A comma or the bracket that closes. */
  | 'more'
  /** Nothing. */
  | 'end';

/** A bracket that is open, on top of those around it. */
export interface Frame {
  kind: '{' | '[';
  /** Right in front of it. */
  before: State;
  /** Right in front of the last thing in it; no state, which would hold on to all those before it. */
  last: Pick<State, 'at' | 'expected'> | null;
  around: Frame | null;
  depth: number;
}

/** Everything up to `at` has been read. Never changed: states can be kept. */
export interface State {
  at: number;
  expected: Expected;
  open: Frame | null;
}

/** What is there and may not be. */
export interface Fault {
  at: number;
  /** A string that its line, or the text, ends in: where it begins. */
  openString?: number;
  isTooDeep?: boolean;
}

export const start: State = { at: 0, expected: 'value', open: null };

const WHITE = /[ \t\n\r]*/y;
// In two patterns: one for both would need a stack as deep as the string is long.
const LETTERS = /[^"\\\u0000-\u001f]*/y;
const ESCAPE = /\\(?:["\\/bfnrt]|u[0-9a-fA-F]{4})/y;
const PLAIN = /(?:-?(?:0|[1-9]\d*)(?:\.\d+)?(?:[eE][+-]?\d+)?|true|false|null)/y;
const WORD = /[\w$.+-]/;

/** Where the next thing begins that is no white space. */
export function afterWhite(text: string, at: number): number {
  // Most often there is none: the pattern is asked only where there may be.
  if (text.charCodeAt(at) > 32) return at;
  WHITE.lastIndex = at;
  WHITE.test(text);
  return WHITE.lastIndex;
}

function matchEnd(pattern: RegExp, text: string, at: number): number {
  pattern.lastIndex = at;
  return pattern.test(text) ? pattern.lastIndex : -1;
}

/** One step: a string, a number, a word or a sign. At the end of a whole text the state stays as it is. */
export function step(text: string, state: State): State | Fault {
  const at = afterWhite(text, state.at);
  const sign = text[at];
  if (sign === undefined) return state.expected === 'end' ? state : { at };
  switch (state.expected) {
    case 'end':
      return { at };
    case 'colon':
      return sign === ':' ? { at: at + 1, expected: 'value', open: state.open } : { at };
    case 'more':
      return more(sign, at, state);
    case 'key':
    case 'key-or-end':
      if (sign === '}' && state.expected === 'key-or-end') return closed(at, state);
      return sign === '"' ? string(text, at, 'colon', state.open) : { at };
    case 'value':
    case 'value-or-end':
      if (sign === ']' && state.expected === 'value-or-end') return closed(at, state);
      return value(text, at, sign, state);
  }
}

function more(sign: string, at: number, state: State): State | Fault {
  const { kind } = state.open!;
  const expected = kind === '{' ? 'key' : 'value';
  if (sign === ',') return { at: at + 1, expected, open: state.open };
  return sign === (kind === '{' ? '}' : ']') ? closed(at, state) : { at };
}

function closed(at: number, { open }: State): State {
  const around = open!.around;
  return { at: at + 1, expected: around ? 'more' : 'end', open: around };
}

function value(text: string, at: number, sign: string, state: State): State | Fault {
  const { open: frame } = state;
  const open: Frame | null = frame && {
    kind: frame.kind,
    before: frame.before,
    last: { at: state.at, expected: state.expected },
    around: frame.around,
    depth: frame.depth,
  };
  const expected = open ? 'more' : 'end';
  if (sign === '{' || sign === '[') {
    const depth = (open?.depth ?? 0) + 1;
    if (depth > MOST_DEPTH) return { at, isTooDeep: true };
    return {
      at: at + 1,
      expected: sign === '{' ? 'key-or-end' : 'value-or-end',
      open: { kind: sign, before: state, last: null, around: open, depth },
    };
  }
  if (sign === '"') return string(text, at, expected, open);
  const end = matchEnd(PLAIN, text, at);
  if (end < 0) return { at };
  // "0.91.1" and "truely" are no values.
  return WORD.test(text[end] ?? '') ? { at } : { at: end, expected, open };
}

function string(text: string, at: number, expected: Expected, open: Frame | null): State | Fault {
  let end = at + 1;
  for (let next = end; next >= 0; next = matchEnd(ESCAPE, text, end)) {
    end = matchEnd(LETTERS, text, next);
  }
  if (text[end] === '"') return { at: end + 1, expected, open };
  return text[end] === '\\' ? { at: end } : { at: end, openString: at };
}

export function isFault(found: State | Fault): found is Fault {
  return !('expected' in found);
}
