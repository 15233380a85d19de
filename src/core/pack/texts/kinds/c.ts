import { Places } from '../places';
import { printable, type TextKind, type TextProblem } from '../kind';
import { allIn, inStarComment, inString, type Standing, type StandIns } from '../standIns';

const PARTNERS: Record<string, string> = { '{': '}', '[': ']', '(': ')' };
/** Comments, strings, characters, directives, names and numbers, and single signs (ISO C, 6.4). */
const TOKEN =
  /\/\/[^\n]*|\/\*[^]*?(?:\*\/|(?![^]))|"[^"\\\n]*(?:\\[^][^"\\\n]*)*(?:"|(?=\n)|(?![^]))|'[^'\\\n]*(?:\\[^][^'\\\n]*)*(?:'|(?=\n)|(?![^]))|#(?<=(?:^|\n)[ \t]*#)[ \t]*(\w+)[^\n]*|[\w.]+|[^\s]/gu;

export const cText: TextKind = {
  id: 'c',
  // As in a string; a comment is not ended by it either.
  escaped: (value) =>
    printable(value)
      .replace(/["\\?]/g, (sign) => `\\${sign}`)
      .replace(/\*\//g, '*\\57')
      .replace(/\r?\n|\r/g, '\\n')
      .replace(/\t/g, '\\t'),
  inAscii: (value) =>
    [...value]
      .map((letter) =>
        letter <= '\x7f'
          ? letter
          : [...new TextEncoder().encode(letter)].map((byte) => `\\${byte.toString(8)}`).join(''),
      )
      .join(''),
  standings: (text, words) => standingsIn(text, words, 0, text.length),
  problems(text) {
    const places = new Places(text);
    const problems: TextProblem[] = [];
    const say = (at: number, message: string) => problems.push({ ...places.at(at), message });
    const open: { sign: string; at: number }[] = [];
    const conditions: number[] = [];
    for (const { 0: token, 1: directive, index: at } of text.matchAll(TOKEN)) {
      const last = open.at(-1);
      if (token.startsWith('/*') && (token.length < 4 || !token.endsWith('*/'))) {
        say(at, 'the comment has no end');
      } else if (/^["']/.test(token) && (token.length < 2 || token.at(-1) !== token[0])) {
        say(at, 'a quotation mark is missing');
      } else if (directive?.startsWith('if')) {
        conditions.push(at);
      } else if (directive === 'endif') {
        if (conditions.pop() === undefined) say(at, '#endif ends no #if');
      } else if (PARTNERS[token]) {
        open.push({ sign: token, at });
      } else if (/^[\]})]$/.test(token)) {
        if (last && PARTNERS[last.sign] === token) open.pop();
        else say(at, `${token} closes nothing`);
      } else if (/^[@`$]$|^[^\0-\x7f]/.test(token)) {
        say(at, `“${token}” cannot stand here`);
      } else if (/^\d/.test(token) && !NUMBER.test(token)) {
        say(at, `“${token}” is no number and no name`);
      }
    }
    for (const { sign, at } of open) say(at, `${sign} is never closed`);
    for (const at of conditions) say(at, 'the #if has no #endif');
    return problems.sort((a, b) => a.line - b.line || a.column - b.column);
  },
};

const NUMBER = /^(?:0[xX][\da-fA-F]+|\d+|\d*\.\d+|\d+\.\d*)(?:[eE]\d*)?[uUlLfF]*$/;

/** In strings, and in comments as far as nothing can end them; directives have both. */
function* standingsIn(
  text: string,
  words: StandIns,
  from: number,
  to: number,
): Generator<Standing> {
  for (const { 0: token, index } of text.slice(from, to).matchAll(TOKEN)) {
    const [at, end] = [from + index, from + index + token.length];
    if (token.startsWith('"')) yield* inString(words, text, at, end);
    else if (token.startsWith('/*')) yield* inStarComment(words, text, at, end);
    else if (token.startsWith('//')) yield* inLineComment(words, text, at, end);
    else if (token.startsWith('#')) yield* standingsIn(text, words, at + 1, end);
    else if (token.startsWith("'")) yield* allIn(words, token, NO_CHARACTER);
  }
}

/** A backslash at the end of a line takes the next one into the comment. */
function* inLineComment(
  words: StandIns,
  text: string,
  from: number,
  end: number,
): Generator<Standing> {
  for (const { word, end: behind } of words.in(text.slice(from, end))) {
    const rest = text.slice(from + behind, end);
    yield {
      word,
      problem:
        /[^\s\\]/.test(rest) && ![...words.in(rest)].some(({ at }) => at === 0) ? null : ENDS_LINE,
    };
  }
}

const ENDS_LINE = {
  message: 'a backslash at its end would take the next line into the comment',
  cure: 'Write the comment as /* … */.',
};
const NO_CHARACTER = {
  message: 'a single character is no place for a value',
  cure: 'Write double quotation marks around it.',
};
