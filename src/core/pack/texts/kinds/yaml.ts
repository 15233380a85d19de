import { LineCounter, parseDocument } from 'yaml';
import { inEscapes, type TextKind } from '../kind';

export const yamlText: TextKind = {
  id: 'yaml',
  // As in double quotes, which take the escapes of JSON.
  escaped: (value) => JSON.stringify(value).slice(1, -1),
  inAscii: inEscapes,
  problems(text) {
    const lineCounter = new LineCounter();
    const { errors } = parseDocument(text, { lineCounter, prettyErrors: false });
    return errors.map(({ message, pos: [at] }) => {
      const { line, col } = lineCounter.linePos(at);
      return { line: Math.max(1, line), column: Math.max(1, col), message };
    });
  },
};
