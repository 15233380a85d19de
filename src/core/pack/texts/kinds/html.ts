import { Tokenizer, TokenizerMode, type Token, type TokenHandler } from 'parse5';
import type { TextKind, TextProblem } from '../kind';
import { allIn, type Standing, type StandIns } from '../standIns';
import { attributeStanding } from './htmlAttributes';
import { inMarkOf, inMarkup, inMarkupAscii, NO_NAME } from './xml';

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
  standings: standingsIn,
  problems(text) {
    const problems: TextProblem[] = [];
    const open: { name: string; line: number; column: number }[] = [];
    /** How many of each name are open: what closes nothing is not looked for among thousands. */
    const counts = new Map<string, number>();
    const count = (name: string, by: number) => counts.set(name, (counts.get(name) ?? 0) + by);
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
        count(name, 1);
        if (RAW[name] !== undefined) {
          tokenizer.state = RAW[name];
          tokenizer.lastStartTagName = name;
        }
      },
      onEndTag(token) {
        const isOpen = (counts.get(token.tagName) ?? 0) > 0;
        if (!isOpen) {
          problems.push({ ...placed(token), message: `</${token.tagName}> closes nothing` });
          return;
        }
        const at = open.findLastIndex(({ name }) => name === token.tagName);
        const [, ...inside] = open.splice(at);
        count(token.tagName, -1);
        for (const one of inside) {
          count(one.name, -1);
          if (!OPTIONAL.has(one.name)) unclosed(one);
        }
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

/** By the tokens of HTML: text, attributes in quotation marks, and what ends otherwise than its escaping knows. */
function standingsIn(text: string, words: StandIns): Standing[] {
  const found: Standing[] = [];
  let raw: string | null = null;
  const take = (piece: string, problem: Standing['problem'] = null) =>
    found.push(...allIn(words, piece, problem));
  const characters = ({ chars }: Token.CharacterToken) =>
    take(chars, raw === 'script' || raw === 'style' ? inCode(raw) : null);
  const handler: TokenHandler = {
    onStartTag(token) {
      const { tagName: name, attrs, location } = token;
      take(name, NO_NAME);
      for (const { name: attribute, value } of attrs) {
        take(attribute, NO_NAME);
        const place = location?.attrs?.[attribute];
        const written = place ? text.slice(place.startOffset, place.endOffset) : '';
        for (const { word, at, end } of words.in(value)) {
          const around = { before: value.slice(0, at), after: value.slice(end) };
          found.push({ word, ...attributeStanding(token, attribute, around, written) });
        }
      }
      raw = RAW[name] === undefined ? raw : name;
      if (RAW[name] === undefined) return;
      tokenizer.state = RAW[name];
      tokenizer.lastStartTagName = name;
    },
    onEndTag({ tagName }) {
      take(tagName, NO_NAME);
      if (tagName === raw) raw = null;
    },
    onDoctype: ({ name, publicId, systemId }) =>
      take([name, publicId, systemId].join(' '), inMarkOf('a DOCTYPE')),
    onComment: ({ data }) => take(data, inMarkOf('a comment')),
    onCharacter: characters,
    onWhitespaceCharacter: characters,
    onNullCharacter: () => undefined,
    onEof: () => undefined,
    onParseError: () => undefined,
  };
  const tokenizer = new Tokenizer({ sourceCodeLocationInfo: true }, handler);
  tokenizer.write(text, true);
  return found;
}

const inCode = (name: string) => ({
  message: `what stands in <${name}> is code, where values are not escaped`,
  cure: 'Put it into an attribute such as data-title="…", and read it from there.',
});
