import { Tokenizer, TokenizerMode, type Token, type TokenHandler } from 'parse5';
import type { TextKind, TextProblem } from '../kind';
import { inMarkup, inMarkupAscii } from './xml';

/** Elements without an end, and those whose end may be left out (HTML, 13.1.2). */
const VOID = new Set('area base br col embed hr img input link meta source track wbr'.split(' '));
const OPTIONAL = new Set(
  'li dt dd p rt rp optgroup option colgroup caption thead tbody tfoot tr td th html head body'.split(
    ' ',
  ),
);
const RAW: Record<string, (typeof TokenizerMode)[keyof typeof TokenizerMode]> = {
  script: TokenizerMode.SCRIPT_DATA,
  style: TokenizerMode.RAWTEXT,
  textarea: TokenizerMode.RCDATA,
  title: TokenizerMode.RCDATA,
};

export const htmlText: TextKind = {
  id: 'html',
  escaped: inMarkup,
  inAscii: inMarkupAscii,
  problems(text) {
    const problems: TextProblem[] = [];
    const open: { name: string; line: number; column: number }[] = [];
    const placed = ({ location }: { location: Token.Location | null }) => ({
      line: location?.startLine ?? 1,
      column: location?.startCol ?? 1,
    });
    const unclosed = ({ name, line, column }: (typeof open)[number]) =>
      problems.push({ line, column, message: `<${name}> is never closed` });
    const handler: TokenHandler = {
      onParseError: ({ code, startLine, startCol }) =>
        problems.push({ line: startLine, column: startCol, message: code.replaceAll('-', ' ') }),
      onStartTag(token) {
        const { tagName: name, selfClosing } = token;
        if (VOID.has(name) || selfClosing) return;
        open.push({ name, ...placed(token) });
        if (RAW[name] !== undefined) {
          tokenizer.state = RAW[name];
          tokenizer.lastStartTagName = name;
        }
      },
      onEndTag(token) {
        const at = open.findLastIndex(({ name }) => name === token.tagName);
        if (at < 0) {
          problems.push({ ...placed(token), message: `</${token.tagName}> closes nothing` });
          return;
        }
        for (const one of open.splice(at).slice(1)) if (!OPTIONAL.has(one.name)) unclosed(one);
      },
      onDoctype: () => undefined,
      onComment: () => undefined,
      onEof: () => undefined,
      onCharacter: () => undefined,
      onNullCharacter: () => undefined,
      onWhitespaceCharacter: () => undefined,
    };
    const tokenizer = new Tokenizer({ sourceCodeLocationInfo: true }, handler);
    tokenizer.write(text, true);
    for (const one of open) if (!OPTIONAL.has(one.name)) unclosed(one);
    return problems.sort((a, b) => a.line - b.line || a.column - b.column);
  },
};
