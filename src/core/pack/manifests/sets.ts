import { groupBy } from '../../group';
import { loopPieces } from '../../loop/parts';
import type { PackedSound } from '../data';

const ORDER = Object.keys(loopPieces);

/** Files that are pieces of one loop, in the order in which they are heard. */
export interface PieceSet {
  /** The sound that they are pieces of. */
  name: string;
  pieces: (PackedSound & { piece: NonNullable<PackedSound['piece']> })[];
}

/** The sets of pieces of loops among files of one kind. */
export function pieceSets(sounds: readonly PackedSound[], fileId?: string): PieceSet[] {
  const pieces = sounds.flatMap((one) =>
    one.piece && (fileId === undefined || one.fileId === fileId)
      ? [{ ...one, piece: one.piece }]
      : [],
  );
  const groups = groupBy(pieces, ({ piece, fileId: id }) => `${piece.ofId} ${id}`);
  return [...groups.values()].map((set) => ({
    name: set[0]!.piece.of,
    pieces: [...set].sort((a, b) => ORDER.indexOf(a.piece.piece) - ORDER.indexOf(b.piece.piece)),
  }));
}
