import type { Block } from '../pcm/pcm';
import {
  madePiece,
  pieced,
  pieceOf,
  range,
  silentPiece,
  wholeRange,
  type PcmSource,
  type Piece,
} from '../pcm/source';
import { changed } from './level';

/** Keeps the frames from `startFrame` up to, not including, `endFrame`. */
export function trim(source: PcmSource, startFrame: number, endFrame: number): PcmSource {
  const frames = endFrame - startFrame;
  return { ...source, frames, from: (skip) => range(source, startFrame + skip, endFrame) };
}

/** Silence of `frames` frames in front of frame `at`. */
export function insertSilence(source: PcmSource, at: number, frames: number): PcmSource {
  return joined(source, [
    pieceOf(source, 0, at),
    silentPiece(source.channelCount, frames),
    pieceOf(source, at, source.frames),
  ]);
}

/** Makes the span silent; everything else stays where it is. */
export function blank(source: PcmSource, startFrame: number, endFrame: number): PcmSource {
  const span = { start: startFrame, end: endFrame };
  return changed(source, span, (samples) => void samples.fill(0), source.gridBits);
}

/**
 * Takes the span out and closes the gap. Over the last `crossfadeFrames` frames before it the sound
 * fades linearly into what led up to its end, so that the seam does not click; the length is the
 * same with and without.
 */
export function cutOut(
  source: PcmSource,
  startFrame: number,
  endFrame: number,
  crossfadeFrames = 0,
): PcmSource {
  const overlap = Math.min(crossfadeFrames, startFrame, endFrame - startFrame);
  const seam = madePiece(overlap, async () =>
    crossfaded(
      await wholeRange(source, startFrame - overlap, startFrame),
      await wholeRange(source, endFrame - overlap, endFrame),
    ),
  );
  const before = pieceOf(source, 0, startFrame - overlap);
  const whole = joined(source, [before, seam, pieceOf(source, endFrame, source.frames)]);
  return { ...whole, gridBits: overlap > 0 ? null : source.gridBits };
}

function joined(like: PcmSource, pieces: readonly Piece[]): PcmSource {
  const frames = pieces.reduce((sum, piece) => sum + piece.frames, 0);
  return { ...like, frames, from: (startFrame) => pieced(pieces, startFrame) };
}

function crossfaded(fading: Block, rising: Block): Block {
  return fading.map((channel, c) =>
    channel.map((x, i) => {
      const share = (i + 0.5) / channel.length;
      return x * (1 - share) + rising[c]![i]! * share;
    }),
  );
}
