import type { TextId } from '../../../brief/layout';
import type { TextKind } from '../kind';
import { cText } from './c';
import { cssText } from './css';
import { csvText } from './csv';
import { htmlText } from './html';
import { iniText } from './ini';
import { jsonText } from './json';
import { plainText } from './plain';
import { xmlText } from './xml';
import { yamlText } from './yaml';

/** Everything that a text of a pack can claim to be. */
export const textKinds: readonly TextKind[] = [
  jsonText,
  yamlText,
  xmlText,
  htmlText,
  cssText,
  cText,
  csvText,
  iniText,
  plainText,
];

/** By its id. */
export function textKind(id: TextId): TextKind {
  return textKinds.find((one) => one.id === id)!;
}
