import * as yup from 'yup';
import { crossfadeCurves, crossfadedLoop, wrappedLoop, type CrossfadeCurve } from '../../dsp/loop';
import { BijouError } from '../../errors';
import { checkLoop } from '../../loop/limits';
import { formatTime } from '../../time';
import { signedDb } from '../../tradeNames';
import { plural } from '../../words';
import type { Shape, StepKind } from '../types';
import { oneOfKeys, optionsOf } from './choice';
import { frameNumber, spanFields, spanParams, spanText, type Span } from './span';

/** How the end of a loop is made to go on in its start. */
export const loopSeams = {
  cut: 'the samples stay: a hard cut at the exact frame',
  crossfade: 'crossfade into what leads up to the start',
  tail: 'the tail under the start of every repeat',
} as const;

export type LoopSeam = keyof typeof loopSeams;

export interface LoopParams extends Span {
  /** Length of what is played once, right in front of the loop; 0 for none. */
  introFrames: number;
  /** Length of what still rings, right behind the loop; 0 for none. */
  tailFrames: number;
  /** A cut where nothing is said. */
  seam?: LoopSeam | undefined;
  /** For `crossfade`: its length, which ends with the loop. */
  crossfadeFrames?: number | undefined;
  curve?: CrossfadeCurve | undefined;
  /** For `tail`: how loud it is under the start. */
  tailDb?: number | undefined;
}

export const loop: StepKind<LoopParams> = {
  kind: 'loop',
  name: 'Loop',
  purpose: 'loop',
  hint: 'says what repeats, with intro and tail, and makes its end go on in its start',
  fields: [
    ...spanFields,
    { name: 'introFrames', label: 'Intro in front', type: 'length' },
    { name: 'tailFrames', label: 'Tail behind', type: 'length' },
    {
      name: 'seam',
      label: 'Seam',
      type: 'choice',
      options: optionsOf(loopSeams, (name) => name),
    },
    {
      name: 'crossfadeFrames',
      label: 'Crossfade',
      type: 'length',
      when: ['seam', 'crossfade'],
    },
    {
      name: 'curve',
      label: 'Curve',
      type: 'choice',
      options: optionsOf(crossfadeCurves, ({ name }) => name),
      when: ['seam', 'crossfade'],
    },
    {
      name: 'tailDb',
      label: 'Tail at',
      type: 'number',
      unit: 'dB',
      min: -60,
      max: 12,
      when: ['seam', 'tail'],
    },
  ],
  defaults: ({ frames }) => ({
    startFrame: 0,
    endFrame: frames,
    introFrames: 0,
    tailFrames: 0,
    seam: 'cut',
    crossfadeFrames: 0,
    curve: 'equal-power',
    tailDb: 0,
  }),
  params: yup.object({
    ...spanParams,
    introFrames: frameNumber(),
    tailFrames: frameNumber(),
    seam: oneOfKeys(loopSeams),
    crossfadeFrames: yup.number().integer().min(0),
    curve: oneOfKeys(crossfadeCurves),
    tailDb: yup.number().min(-60).max(12),
  }),
  describe(params, before) {
    const { startFrame, endFrame, introFrames, tailFrames } = params;
    const time = (frames: number) => formatTime(frames / before.rateHz);
    return [
      `loop ${spanText(params, before)} (${plural(endFrame - startFrame, 'frame')})`,
      introFrames > 0 ? `intro of ${time(introFrames)}` : '',
      tailFrames > 0 ? `tail of ${time(tailFrames)}` : '',
      seamText(params, time),
    ]
      .filter(Boolean)
      .join(', ');
  },
  shape(before, params) {
    checkLoop(params, before);
    checkParts(params, before);
    checkSeam(params, before);
    return { ...before, frames: before.frames + addedFrames(params) };
  },
  place: (_, params) => (frame) => (frame < params.endFrame ? frame : frame + addedFrames(params)),
  origin: (_, params) => (frame) => (frame < params.endFrame ? frame : frame - addedFrames(params)),
  marks(moved, params) {
    const { introFrames, tailFrames } = params;
    const added = addedFrames(params);
    const [startFrame, endFrame] = [params.startFrame + added, params.endFrame + added];
    const { startFrame: played } = params;
    return {
      ...moved,
      loop: { startFrame, endFrame },
      intro: introFrames > 0 ? { startFrame: played - introFrames, endFrame: played } : null,
      first: added > 0 ? { startFrame: played, endFrame: startFrame } : null,
      tail: tailFrames > 0 ? { startFrame: endFrame, endFrame: endFrame + tailFrames } : null,
    };
  },
  peakAtMost(before, params) {
    const seam = seamOfParams(params);
    if (seam === 'cut' || (seam === 'crossfade' && params.curve === 'linear')) return before;
    const more = seam === 'crossfade' ? Math.SQRT2 : 1 + amplitude(params.tailDb);
    return before + 20 * Math.log10(more);
  },
  along: withRoom,
  rereads: (params) => seamOfParams(params) !== 'cut',
  apply(source, params) {
    const { tailFrames, crossfadeFrames = 0, curve = 'equal-power', tailDb } = params;
    const seam = seamOfParams(params);
    if (seam === 'crossfade') return crossfadedLoop(source, params, crossfadeFrames, curve);
    if (seam === 'tail') return wrappedLoop(source, params, tailFrames, amplitude(tailDb));
    return source;
  },
};

function amplitude(db = 0): number {
  return 10 ** (db / 20);
}

/** A crossfade of no length is a cut. */
function seamOfParams({ seam = 'cut', crossfadeFrames = 0 }: LoopParams): LoopSeam {
  return seam === 'crossfade' && crossfadeFrames === 0 ? 'cut' : seam;
}

/** What the sound gets longer by: the repeat that carries the tail lies behind the dry first pass. */
export function addedFrames(params: LoopParams): number {
  return seamOfParams(params) === 'tail' ? params.endFrame - params.startFrame : 0;
}

/** The longest crossfade that a loop can have, in frames. */
export function mostCrossfade({ startFrame, endFrame }: Span): number {
  return Math.max(0, Math.min(startFrame, endFrame - startFrame));
}

/**
 * Leaves no crossfade without room: who asks for a longer one gets a later start, who moves an edge a shorter
 * crossfade.
 */
function withRoom(params: LoopParams, name: string): LoopParams {
  const { seam, startFrame, endFrame, crossfadeFrames = 0 } = params;
  if (seam !== 'crossfade') return params;
  const usual = Math.floor((endFrame - startFrame) / 20);
  const isAsked = name === 'seam' || name === 'crossfadeFrames';
  const wanted = name === 'seam' && crossfadeFrames === 0 ? usual : crossfadeFrames;
  if (isAsked) return { ...params, ...crossfadeRoom(params, wanted) };
  return { ...params, crossfadeFrames: Math.min(wanted, mostCrossfade(params)) };
}

/**
 * A loop with a crossfade of so many frames, as far as the sound has room for it. Where too little lies in front
 * of its start, it begins that much later: what was its beginning then leads up to it.
 */
export function crossfadeRoom(
  span: Span,
  frames: number,
): { startFrame: number; crossfadeFrames: number } {
  const { endFrame } = span;
  if (frames <= mostCrossfade(span))
    return { startFrame: span.startFrame, crossfadeFrames: frames };
  // Half of what there is: then loop and crossfade have room.
  const room = Math.min(frames, Math.floor(endFrame / 2));
  const startFrame = Math.max(span.startFrame, room);
  return { startFrame, crossfadeFrames: Math.min(room, endFrame - startFrame) };
}

function seamText(params: LoopParams, time: (frames: number) => string): string {
  const { crossfadeFrames = 0, curve = 'equal-power', tailDb = 0 } = params;
  const seam = seamOfParams(params);
  if (seam === 'crossfade') {
    return `crossfade of ${time(crossfadeFrames)}, ${crossfadeCurves[curve].name}`;
  }
  if (seam === 'cut') return '';
  const level = tailDb === 0 ? '' : ` at ${signedDb(tailDb)}`;
  return `the tail under every repeat${level}, which lies behind the first pass`;
}

/** @throws bad-span where the parts around the loop reach beyond the sound. */
function checkParts(
  { startFrame, endFrame, introFrames, tailFrames }: LoopParams,
  { frames, rateHz }: Shape,
): void {
  const tooLong = (part: string, room: number, side: string) =>
    new BijouError(
      'bad-span',
      `The ${part} is longer than what lies ${side} the loop: ${plural(room, 'frame')} ` +
        `(${formatTime(room / rateHz)}).`,
      `Make the ${part} shorter, or move the loop.`,
    );
  if (introFrames > startFrame) throw tooLong('intro', startFrame, 'in front of');
  if (tailFrames > frames - endFrame) throw tooLong('tail', frames - endFrame, 'behind');
}

/** @throws bad-span where the seam needs more than there is. */
function checkSeam(params: LoopParams, { rateHz }: Shape): void {
  const { startFrame, endFrame, crossfadeFrames = 0, tailFrames } = params;
  const text = (frames: number) => `${plural(frames, 'frame')} (${formatTime(frames / rateHz)})`;
  const length = endFrame - startFrame;
  const seam = seamOfParams(params);
  if (seam === 'crossfade' && crossfadeFrames > startFrame) {
    throw new BijouError(
      'bad-span',
      `The crossfade is longer than what lies in front of the loop: ${text(startFrame)}.`,
      'Make it shorter, or let the loop begin later.',
    );
  }
  if (seam === 'crossfade' && crossfadeFrames > length) {
    throw new BijouError(
      'bad-span',
      `The crossfade is longer than the loop: ${text(length)}.`,
      'Make it shorter, or the loop longer.',
    );
  }
  if (seam === 'tail' && tailFrames === 0) {
    throw new BijouError(
      'bad-span',
      'There is no tail to put under the start: it has no length.',
      'Say how long the sound rings behind the loop.',
    );
  }
  if (seam === 'tail' && tailFrames > length) {
    throw new BijouError(
      'bad-span',
      `The tail is longer than the loop, ${text(length)}: it would still ring in the second repeat.`,
      'Take a shorter tail, or a loop of twice as many bars.',
    );
  }
}
