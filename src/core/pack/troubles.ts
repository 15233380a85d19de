/** Something about a pack that people have to know. */
export interface PackTrouble {
  /** wrong: no pack is made while it is so · open: it has to be built first · note: good to know. */
  weight: 'wrong' | 'open' | 'note';
  /** What it is about. */
  about: 'slot' | 'sound' | 'text' | 'icon' | 'call' | 'name' | 'size' | 'field';
  briefId: string;
  message: string;
  /** What to do about it. */
  hint: string;
  /** In the pack. */
  path?: string;
  soundId?: number;
  /** Which of the calls, from 0. */
  call?: number;
  /** In the text, from 1. */
  line?: number;
  column?: number;
}

/** Without what follows from who says it. */
export type PartTrouble = Omit<PackTrouble, 'briefId'>;

export function wrong(
  about: PackTrouble['about'],
  message: string,
  hint: string,
  more: Partial<PartTrouble> = {},
): PartTrouble {
  return { weight: 'wrong', about, message, hint, ...more };
}
