import { kindOf, walkRecipe } from './recipe';
import type { Recipe, Shape } from './types';

/** Where the frames of a source go through a recipe, for pictures and for hearing both at one place. */
export interface Trace {
  /** Where a frame of the source lands; null when it is cut away. May be fractional. */
  forward(frame: number): number | null;
  /** Where a frame of the result came from. May be fractional. */
  back(frame: number): number;
  /** How loud fades and the like leave a frame of the source, 0 … 1; null when it is cut away. */
  envelope(frame: number): number | null;
}

/** Follows all steps that can be done. */
export function traceRecipe(recipe: Recipe, source: Shape): Trace {
  const stages = walkRecipe(recipe, source).flatMap(({ step, before, problem }) => {
    const kind = step.on && !problem ? kindOf(step) : undefined;
    if (!kind?.place && !kind?.envelope) return [];
    return {
      place: kind.place?.(before, step.params),
      origin: kind.origin?.(before, step.params),
      envelope: kind.envelope?.(before, step.params),
    };
  });
  const follow = (frame: number) => {
    let at: number | null = frame;
    let gain = 1;
    for (const { place, envelope } of stages) {
      gain *= envelope?.(at) ?? 1;
      if (place) at = place(at);
      if (at === null) return null;
    }
    return { at, gain };
  };
  return {
    forward: (frame) => follow(frame)?.at ?? null,
    back: (frame) => stages.reduceRight((at, { origin }) => origin?.(at) ?? at, frame),
    envelope: (frame) => follow(frame)?.gain ?? null,
  };
}

/**
 * A span of the source as the result has it: what is left of it, or null when all of it is cut away.
 * Ends that were cut away move inwards to the nearest frame that was kept.
 */
export function spanThrough(
  { forward }: Trace,
  { startFrame, endFrame }: { startFrame: number; endFrame: number },
  framesAfter: number,
): { startFrame: number; endFrame: number } | null {
  const first = nearestKept(forward, startFrame, endFrame);
  const last = nearestKept(forward, endFrame, startFrame);
  if (first === null || last === null) return null;
  const ends = [first, last].map((frame) =>
    Math.max(0, Math.min(framesAfter, Math.round(frame))),
  ) as [number, number];
  const [start, end] = ends.sort((a, b) => a - b);
  return end > start ? { startFrame: start, endFrame: end } : null;
}

/** Steps of the search for a kept frame; between two of them only a very short stretch is missed. */
const LOOKS = 512;

function nearestKept(forward: Trace['forward'], from: number, to: number): number | null {
  const at = forward(from);
  if (at !== null) return at;
  let lost = from;
  for (let i = 1; i <= LOOKS; i++) {
    let kept = from + ((to - from) * i) / LOOKS;
    if (forward(kept) === null) {
      lost = kept;
      continue;
    }
    // Halve the way until the edge is found to the frame.
    while (Math.abs(kept - lost) > 0.5) {
      const middle = (kept + lost) / 2;
      if (forward(middle) === null) lost = middle;
      else kept = middle;
    }
    return forward(kept);
  }
  return null;
}
