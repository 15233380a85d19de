import { CST, Lexer, LineCounter, parseDocument } from 'yaml';
import { MOST_DEPTH } from '../../../nesting';
import { inEscapes, type TextKind } from '../kind';
import { Places } from '../places';
import { allIn, inString } from '../standIns';

/** Line ends beside the usual ones, as some readers take them. */
const LINE_ENDS = /[\u0085\u2028\u2029]/g;

export const yamlText: TextKind = {
  id: 'yaml',
  // As in double quotes, which take the escapes of JSON.
  escaped: (value) => JSON.stringify(value).slice(1, -1).replace(LINE_ENDS, inEscapes),
  inAscii: inEscapes,
  *standings(text, words) {
    let at = 0;
    let isPlain = false;
    for (const lexeme of new Lexer().lex(text)) {
      const type = CST.tokenType(lexeme);
      // These say something of what follows, and stand for nothing in the text.
      if (type === 'doc-mode' || type === 'flow-error-end' || type === 'scalar') {
        isPlain = type === 'scalar';
        continue;
      }
      const end = at + lexeme.length;
      if (isPlain) isPlain = false;
      else if (type === 'double-quoted-scalar') yield* inString(words, text, at, end);
      else if (type === 'comment') yield* allIn(words, lexeme);
      else if (type === 'single-quoted-scalar') {
        yield* allIn(words, lexeme, {
          message: 'a quotation mark in it would end the text that it stands in',
          cure: 'Write double quotation marks around it.',
        });
      }
      at = end;
    }
  },
  problems(text) {
    const deep = deepPlace(text);
    if (deep !== null) {
      return [{ ...new Places(text).at(deep), message: 'parts stand in each other too deep' }];
    }
    const lineCounter = new LineCounter();
    const { errors } = parseDocument(text, { lineCounter, prettyErrors: false });
    return errors.map(({ message, pos: [at] }) => {
      const { line, col } = lineCounter.linePos(at);
      return { line: Math.max(1, line), column: Math.max(1, col), message };
    });
  },
};

/** What begins a part in a part takes two columns at least. */
const MOST_COLUMN = 2 * MOST_DEPTH;

/**
 * Where a text nests deeper than anybody needs; null for nowhere. The parser calls itself for each level, and may take
 * the whole process along when its stack ends.
 */
function deepPlace(text: string): number | null {
  let [at, lineStart, flow] = [0, 0, 0];
  for (const lexeme of new Lexer().lex(text)) {
    const type = CST.tokenType(lexeme);
    if (type === 'doc-mode' || type === 'flow-error-end' || type === 'scalar') continue;
    if (type === 'newline') lineStart = at + lexeme.length;
    if (lexeme === '[' || lexeme === '{') flow++;
    if (lexeme === ']' || lexeme === '}') flow--;
    const isStart =
      type === 'seq-item-ind' || type === 'explicit-key-ind' || type === 'map-value-ind';
    if (flow > MOST_DEPTH || (flow === 0 && isStart && at - lineStart > MOST_COLUMN)) return at;
    at += lexeme.length;
  }
  return null;
}
