import parse from 'css-tree/parser';
import { tokenize, tokenNames } from 'css-tree/tokenizer';
import { MOST_DEPTH } from '../../../nesting';
import { Places } from '../places';
import { beyondAscii, printable, type TextKind, type TextProblem } from '../kind';
import { inStarComment, inString, type Standing } from '../standIns';

const inHex = (code: number) => `\\${code.toString(16)} `;
const PARTNERS: Record<string, string> = { '{': '}', '[': ']', '(': ')' };

export const cssText: TextKind = {
  id: 'css',
  escaped: (value) =>
    printable(value).replace(/["'\\<>/;{}()\n\r]/g, (sign) => inHex(sign.charCodeAt(0))),
  inAscii: (value) => beyondAscii(value, inHex),
  standings(text, words) {
    const found: Standing[] = [];
    tokenize(text, (type, start, end) => {
      const name = tokenNames[type];
      if (name === 'string-token') found.push(...inString(words, text, start, end));
      if (name === 'comment-token') found.push(...inStarComment(words, text, start, end));
    });
    return found;
  },
  problems(text) {
    const { problems, isTooDeep } = unbalanced(text);
    // The parser calls itself for each bracket.
    const parsed = isTooDeep ? [] : parseProblems(text);
    return [...parsed, ...problems].sort((a, b) => a.line - b.line || a.column - b.column);
  },
};

/** So many are enough: each is worked out by reading the whole text once more. */
const MOST_PROBLEMS = 50;
class Enough extends Error {}

function parseProblems(text: string): TextProblem[] {
  const problems: TextProblem[] = [];
  try {
    parse(text, {
      positions: true,
      onParseError: ({
        message,
        line,
        column,
      }: {
        message: string;
        line: number;
        column: number;
      }) => {
        problems.push({ line, column, message });
        if (problems.length >= MOST_PROBLEMS) throw new Enough();
      },
    } as Parameters<typeof parse>[1]);
  } catch (error) {
    if (!(error instanceof Enough)) throw error;
  }
  return problems;
}

/** What its end closes by itself, as CSS has it, was forgotten. */
function unbalanced(text: string): { problems: TextProblem[]; isTooDeep: boolean } {
  const places = new Places(text);
  const problems: TextProblem[] = [];
  const open: { sign: string; at: number }[] = [];
  let isTooDeep = false;
  const say = (at: number, message: string) => {
    if (problems.length < MOST_PROBLEMS) problems.push({ ...places.at(at), message });
  };
  tokenize(text, (type, start, end) => {
    const name = tokenNames[type] ?? '';
    const sign = name === 'function-token' ? '(' : text.slice(start, end);
    if (name === 'bad-string-token' || name === 'bad-url-token') {
      say(start, 'a quotation mark is missing');
    } else if (name === 'string-token' && !/^(["'])[^]*\1$/.test(sign)) {
      say(start, 'a quotation mark is missing');
    } else if (name === 'comment-token' && !sign.endsWith('*/')) {
      say(start, 'the comment has no end');
    } else if (PARTNERS[sign]) {
      open.push({ sign, at: start });
      if (open.length === MOST_DEPTH) say(start, 'brackets stand in each other too deep');
      isTooDeep ||= open.length >= MOST_DEPTH;
    } else if ([']', '}', ')'].includes(sign)) {
      const last = open.at(-1);
      if (last && PARTNERS[last.sign] === sign) open.pop();
      else say(start, `${sign} closes nothing`);
    }
  });
  for (const { sign, at } of open) say(at, `${sign} is never closed`);
  return { problems, isTooDeep };
}
