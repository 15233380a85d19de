import { printable, type TextKind } from '../kind';

export const plainText: TextKind = {
  id: 'text',
  escaped: printable,
  problems: () => [],
};
