import { mendJson } from '../../mend/mend';
import { inEscapes, type TextKind } from '../kind';

export const jsonText: TextKind = {
  id: 'json',
  escaped: (value) => JSON.stringify(value).slice(1, -1),
  inAscii: inEscapes,
  problems: (text) => mendJson(text).problems,
};
