import { filling, renameWords, unknownWords, type Renamed } from '../collect/rename';
import { BijouError } from '../errors';
import { pieceWords, type LoopPiece } from './parts';

/** How the sounds that a loop is taken apart into are called, unless somebody says otherwise. */
export const PIECE_PATTERN = '{name} {part}';
const PART = '{part}';

/**
 * Names of pieces by a pattern: `{part}` is what tells them apart, everything else as when sounds are renamed.
 * @throws bad-setting
 */
export function pieceNames(pattern: string, sound: Renamed): (piece: LoopPiece) => string {
  const unknown = unknownWords(pattern.replaceAll(PART, ''));
  if (unknown.length > 0 || !pattern.includes(PART)) {
    const words = [PART, ...Object.keys(renameWords).map((word) => `{${word}}`)];
    throw new BijouError(
      'bad-setting',
      unknown.length > 0
        ? `A name knows no {${unknown[0]}}.`
        : `The names of the pieces would all be the same: ${PART} is missing.`,
      `Use ${words.join(' ')}.`,
    );
  }
  return (piece) => filling(pattern.replaceAll(PART, pieceWords[piece]))(sound);
}
