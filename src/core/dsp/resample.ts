import { movedStretch } from '../marks';
import { blockFrames, type Block } from '../pcm/pcm';
import { emptyChannels, pieced, type PcmSource } from '../pcm/source';
import { filterBank } from './filterBank';
import { alongLine, inFront, Interpolator, type Line } from './interpolator';
import { loopResampled } from './loopResample';

/** Length after a rate change, in frames. Exact: it depends on nothing but these three numbers. */
export function resampledFrames(frames: number, fromHz: number, toHz: number): number {
  return fromHz === toHz
    ? frames
    : Math.max(frames > 0 ? 1 : 0, Math.round((frames * toHz) / fromHz));
}

/** Where a frame lands, or comes from with the rates swapped. May be fractional. */
export function resampledPlace(frame: number, fromHz: number, toHz: number): number {
  return (frame * toHz) / fromHz;
}

/**
 * Converts to another rate; the pitch stays, the filter's delay is taken out, edges meet silence, but for those of
 * a loop, which meet each other. From any frame on it gives the very same frames.
 */
export function resampled(source: PcmSource, toHz: number): PcmSource {
  const { rateHz } = source;
  if (rateHz === toHz) return source;
  const frames = resampledFrames(source.frames, rateHz, toHz);
  const line = plainLine(rateHz, toHz);
  const { loop, channelCount } = source;
  const moved = loop && movedStretch(loop, (at) => resampledPlace(at, rateHz, toHz), frames);
  const pieces = moved
    ? loopResampled(source, loop, { moved, frames, line })
    : [
        alongLine(channelCount, {
          line,
          supply: (from) => inFront(source, from),
          ...{ startFrame: 0, endFrame: frames },
        }),
      ];
  return {
    ...source,
    rateHz: toHz,
    frames,
    gridBits: null,
    from: (startFrame) => pieced(pieces, startFrame),
  };
}

function plainLine(fromHz: number, toHz: number): Line {
  const divisor = gcd(fromHz, toHz);
  return { first: 0n, up: toHz / divisor, down: fromHz / divisor };
}

/** A sound brought to another rate as it comes in; edges meet silence. */
export class Resampler {
  private readonly reader: Interpolator;
  private framesIn = 0;
  private framesOut = 0;

  /** What lies above `wantedHz` need not be right. */
  constructor(
    private readonly fromHz: number,
    private readonly toHz: number,
    private readonly channelCount: number,
    wantedHz = Infinity,
  ) {
    const line = plainLine(fromHz, toHz);
    const bank = filterBank(line.up, line.down, Math.min(1, wantedHz / fromHz));
    this.reader = new Interpolator(line, bank, channelCount, 0);
    this.reader.push(emptyChannels(channelCount, -this.reader.firstInput));
  }

  push(block: Block): Block {
    this.framesIn += blockFrames(block);
    const out = this.reader.push(block);
    this.framesOut += blockFrames(out);
    return out;
  }

  /** What is left; `resampledFrames` in all. */
  finish(): Block {
    const left = resampledFrames(this.framesIn, this.fromHz, this.toHz) - this.framesOut;
    return left > 0 ? this.reader.finish(left) : emptyChannels(this.channelCount, 0);
  }
}

function gcd(a: number, b: number): number {
  while (b) [a, b] = [b, a % b];
  return a;
}
