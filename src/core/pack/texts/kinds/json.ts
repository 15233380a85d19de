import { mendJson } from '../../mend/mend';
import { inEscapes, type TextKind } from '../kind';
import { inString } from '../standIns';

export const jsonText: TextKind = {
  id: 'json',
  escaped: (value) => JSON.stringify(value).slice(1, -1),
  inAscii: inEscapes,
  *standings(text, words) {
    for (const { 0: string, index: at } of text.matchAll(STRING)) {
      yield* inString(words, text, at, at + string.length);
    }
  },
  problems: (text) => mendJson(text).problems,
};

/** Whatever lies between two quotation marks of one line (RFC 8259, 7). */
const STRING = /"[^"\\\n]*(?:\\.[^"\\\n]*)*"/g;
