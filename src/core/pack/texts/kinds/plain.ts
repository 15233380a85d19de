import { printable, type TextKind } from '../kind';
import { allIn } from '../standIns';

export const plainText: TextKind = {
  id: 'text',
  escaped: printable,
  standings: (text, words) => allIn(words, text),
  problems: () => [],
};
