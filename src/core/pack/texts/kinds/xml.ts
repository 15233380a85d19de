import { SaxesParser } from 'saxes';
import { beyondAscii, printable, type TextKind, type TextProblem } from '../kind';
import { allIn, type Standing } from '../standIns';

const entities: Record<string, string> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&#39;',
};

/** As it stands in XML and HTML, between tags and in quotes alike. */
export function inMarkup(value: string): string {
  return printable(value).replace(/[&<>"']/g, (sign) => entities[sign]!);
}

export const NO_NAME = {
  message: 'a value cannot be the name of an element or attribute',
  cure: 'Write the name itself, and the value into quotation marks or between tags.',
};

/** Why no value may stand in parts whose end cannot be escaped. */
export const inMarkOf = (part: string) => ({
  message: `a value in ${part} could end it`,
  cure: 'Put it between tags, or into the quotation marks of an attribute.',
});

export const inMarkupAscii = (value: string) =>
  beyondAscii(value, (code) => `&#x${code.toString(16)};`);

export const xmlText: TextKind = {
  id: 'xml',
  escaped: inMarkup,
  inAscii: inMarkupAscii,
  standings(text, words) {
    const found: Standing[] = [];
    const take = (piece: string, problem: Standing['problem'] = null) =>
      found.push(...allIn(words, piece, problem));
    const parser = new SaxesParser();
    parser.on('error', () => undefined);
    parser.on('text', (piece) => take(piece));
    parser.on('attribute', ({ name, value }) => {
      take(name, NO_NAME);
      take(value);
    });
    parser.on('opentagstart', ({ name }) => take(name, NO_NAME));
    parser.on('comment', (piece) => take(piece, inMarkOf('a comment')));
    parser.on('cdata', (piece) => take(piece, inMarkOf('a CDATA section')));
    parser.on('processinginstruction', ({ target, body }) =>
      take(`${target} ${body}`, inMarkOf('an instruction')),
    );
    parser.on('doctype', (piece) => take(piece, inMarkOf('a DOCTYPE')));
    parser.write(text).close();
    return found;
  },
  problems(text) {
    const problems: TextProblem[] = [];
    const parser = new SaxesParser({ position: true });
    parser.on('error', ({ message }) => {
      problems.push({
        line: parser.line,
        column: parser.column + 1,
        // It puts the place in front.
        message: message.replace(/^(?:\d+:\d+: )?/, ''),
      });
    });
    parser.write(text).close();
    return problems;
  },
};
