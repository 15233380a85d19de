import { joinedSides, type Sides } from '@/core/loop/seam/sides';
import { drawLane, inkOf, prepare } from '../../waveform/draw';

/** Widths of the lens in milliseconds, both sides together. */
export const lensWidths = [5, 10, 20, 50, 100, 200, 500, 1_000, 2_000] as const;

/** What is louder than that is never drawn larger than it is. */
const MOST_GAIN = 1_000;

/** How much the lens makes the sound larger, so that it fills it: 1 for full scale. */
export function lensGain(sides: Sides): number {
  let most = 0;
  for (const side of [sides.before, sides.behind]) {
    for (const channel of side) for (const x of channel) most = Math.max(most, Math.abs(x));
  }
  return most > 0 ? Math.min(MOST_GAIN, 1 / most) : 1;
}

/** Draws both sides of a seam as they will play, the seam in the middle. */
export function drawLens(canvas: HTMLCanvasElement, sides: Sides, gain: number): void {
  const drawing = prepare(canvas);
  if (!drawing) return;
  const { context, width, height } = drawing;
  const ink = inkOf(canvas);
  const channels = joinedSides(sides);
  const frames = channels[0]?.length ?? 0;
  const lane = height / Math.max(1, channels.length);
  const view = { start: 0, end: frames };
  context.fillStyle = ink.tint;
  context.fillRect(width / 2, 0, width / 2, height);
  channels.forEach((samples, c) => {
    const data = columnsOf(samples, Math.round(width), gain);
    drawLane(context, { data, covers: view, view, width, top: c * lane, height: lane }, ink);
    if (c === 0) return;
    context.fillStyle = ink.axis;
    context.fillRect(0, Math.round(c * lane), width, 1);
  });
  context.fillStyle = ink.jewel;
  context.fillRect(Math.round(width / 2) - 1, 0, 2, height);
  // For whoever measures how soon it is there.
  canvas.dataset['drawnAt'] = performance.now().toFixed(1);
}

/** `[min, max, rms]` a column, or a frame where there are fewer of those. */
function columnsOf(samples: Float32Array, width: number, gain: number): Float32Array {
  const columns = Math.min(samples.length, Math.max(1, width));
  const out = new Float32Array(columns * 3);
  for (let i = 0; i < columns; i++) {
    const from = Math.floor((i * samples.length) / columns);
    const to = Math.max(from + 1, Math.floor(((i + 1) * samples.length) / columns));
    let [low, high, sum] = [Infinity, -Infinity, 0];
    for (let at = from; at < to; at++) {
      const x = samples[at]! * gain;
      if (x < low) low = x;
      if (x > high) high = x;
      sum += x * x;
    }
    out.set([low, high, Math.sqrt(sum / (to - from))], i * 3);
  }
  return out;
}
