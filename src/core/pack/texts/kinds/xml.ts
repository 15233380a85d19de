import { SaxesParser } from 'saxes';
import { beyondAscii, printable, type TextKind, type TextProblem } from '../kind';

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

export const inMarkupAscii = (value: string) =>
  beyondAscii(value, (code) => `&#x${code.toString(16)};`);

export const xmlText: TextKind = {
  id: 'xml',
  escaped: inMarkup,
  inAscii: inMarkupAscii,
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
