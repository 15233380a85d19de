import type { TextId } from '../../brief/layout';
import type { Place } from './places';
import type { Standing, StandIns } from './standIns';

/** What is wrong in a text, and where. */
export interface TextProblem extends Place {
  /** With the likely cause. */
  message: string;
  /** What would do, where that can be said. */
  cure?: string;
}

/** What a text of a pack claims to be. */
export interface TextKind {
  id: TextId;
  /** A value as it stands in such a text: it can end nothing that was begun around it. */
  escaped(value: string): string;
  /** Letters beyond ASCII as such a text can write them with ASCII alone; left out where it cannot. */
  inAscii?(value: string): string;
  /**
   * Where each stand-in stands in a text, by the text's own tokens: only there may a value come into it.
   * Stand-ins that are left out are taken for bare words of the text.
   */
  standings(text: string, words: StandIns): Iterable<Standing>;
  /** Everything that keeps the text from being what it claims to be. */
  problems(text: string): TextProblem[];
}

/** Letters beyond ASCII, each with `write` of its code. */
export function beyondAscii(value: string, write: (code: number) => string): string {
  return value.replace(/[^\0-\x7f]/gu, (letter) => write(letter.codePointAt(0)!));
}

/** Letters beyond ASCII in the halves that JavaScript and YAML know: "\u00e9", "\ud83d\ude00". */
export function inEscapes(value: string): string {
  return value.replace(
    /[^\0-\x7f]/g,
    (half) => `\\u${half.charCodeAt(0).toString(16).padStart(4, '0')}`,
  );
}

const CONTROLS = /[\0-\x08\x0b\x0c\x0e-\x1f\x7f]/g;

/** Without characters that no text of such a kind may hold. */
export function printable(value: string): string {
  return value.replace(CONTROLS, '');
}
