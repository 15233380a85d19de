import parse from 'css-tree/parser';
import { tokenize, tokenNames } from 'css-tree/tokenizer';
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
    const problems: TextProblem[] = [];
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
      }) => problems.push({ line, column, message }),
    } as Parameters<typeof parse>[1]);
    return [...problems, ...unbalanced(text)].sort(
      (a, b) => a.line - b.line || a.column - b.column,
    );
  },
};

/** What its end closes by itself, as CSS has it, was forgotten. */
function unbalanced(text: string): TextProblem[] {
  const places = new Places(text);
  const problems: TextProblem[] = [];
  const open: { sign: string; at: number }[] = [];
  tokenize(text, (type, start, end) => {
    const name = tokenNames[type] ?? '';
    const sign = name === 'function-token' ? '(' : text.slice(start, end);
    if (name === 'bad-string-token' || name === 'bad-url-token') {
      problems.push({ ...places.at(start), message: 'a quotation mark is missing' });
    } else if (name === 'string-token' && !/^(["'])[^]*\1$/.test(sign)) {
      problems.push({ ...places.at(start), message: 'a quotation mark is missing' });
    } else if (name === 'comment-token' && !sign.endsWith('*/')) {
      problems.push({ ...places.at(start), message: 'the comment has no end' });
    } else if (PARTNERS[sign]) {
      open.push({ sign, at: start });
    } else if ([']', '}', ')'].includes(sign)) {
      const last = open.at(-1);
      if (last && PARTNERS[last.sign] === sign) open.pop();
      else problems.push({ ...places.at(start), message: `${sign} closes nothing` });
    }
  });
  for (const { sign, at } of open) {
    problems.push({ ...places.at(at), message: `${sign} is never closed` });
  }
  return problems;
}
