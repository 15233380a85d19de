import { BijouError } from '../errors';
import type { SoundMarks, Stretch } from '../marks';
import type { Step } from '../recipe/types';

/** What an engine plays of a loop, one file each, in the order in which they are heard. */
export const loopPieces = {
  intro: 'intro',
  first: 'first pass',
  repeat: 'repeat pass',
} as const;

export type LoopPiece = keyof typeof loopPieces;

/** Where the pieces of a loop lie in the sound; they follow one another without a gap. */
export interface LoopParts extends Record<LoopPiece, Stretch | null> {
  first: Stretch;
  /** The same as the first pass, where nothing is put under its start. */
  repeat: Stretch;
  /** What still rings behind the last pass. */
  tail: Stretch | null;
}

/** The pieces of a marked loop. @throws not-allowed where none is marked, or it runs back and forth */
export function partsOf({ loop, intro, first, tail }: SoundMarks): LoopParts {
  if (!loop) {
    throw new BijouError(
      'not-allowed',
      'No loop is marked in it.',
      'Give it a loop, or switch on the step that does.',
    );
  }
  if (loop.isBackAndForth) {
    throw new BijouError(
      'not-allowed',
      'Its loop runs back and forth.',
      'Unroll it first: then it runs forward in every player.',
    );
  }
  const repeat = { startFrame: loop.startFrame, endFrame: loop.endFrame };
  return { intro, first: first ?? repeat, repeat, tail };
}

/** The step that leaves one piece of a sound. @throws not-allowed where there is no such piece */
export function pieceStep(marks: SoundMarks, piece: LoopPiece): Step {
  const found = partsOf(marks)[piece];
  if (!found) {
    throw new BijouError(
      'not-allowed',
      `Its loop has no ${loopPieces[piece]}.`,
      'Give it one in its loop step.',
    );
  }
  const { startFrame, endFrame } = found;
  return { kind: 'keep', on: true, params: { startFrame, endFrame } };
}
