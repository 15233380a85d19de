import { barLabel, framesPerBeat, type Tempo } from '@/core/tempo';
import { count } from '@/core/tradeNames';
import type { View } from '../waveform/tiles';
import type { RulerUnit } from './desk';

/** Fewest frames that a picture shows. */
const CLOSEST_FRAMES = 24;

/** Zooms by `factor` (below 1: closer) around a frame that keeps its place, inside the sound. */
export function zoom(view: View, frames: number, factor: number, around: number): View {
  const length = Math.round(
    Math.min(frames, Math.max(Math.min(CLOSEST_FRAMES, frames), (view.end - view.start) * factor)),
  );
  const share = (around - view.start) / (view.end - view.start);
  return clamp({ start: Math.round(around - share * length), end: 0 }, length, frames);
}

/** Moves the view by so many frames, inside the sound. */
export function pan(view: View, frames: number, by: number): View {
  return clamp({ start: Math.round(view.start + by), end: 0 }, view.end - view.start, frames);
}

function clamp({ start }: View, length: number, frames: number): View {
  const from = Math.max(0, Math.min(frames - length, start));
  return { start: from, end: from + length };
}

const STEPS_SECONDS = [1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1800, 3600];

/** Places of the ruler's marks: round times, whole frames, or bars and beats where a tempo is set. */
export function rulerMarks(
  view: View,
  rateHz: number,
  width: number,
  unit: RulerUnit = 'time',
  tempo: Tempo | null = null,
): { frame: number; label: string }[] {
  const most = Math.max(2, Math.floor(width / 110));
  const framesPerMark = (view.end - view.start) / most;
  if (unit === 'bars' && tempo) return barMarks(view, framesPerMark, rateHz, tempo);
  // Times would all look alike when single frames can be told apart.
  if (unit === 'frames' || framesPerMark < rateHz / 1000) {
    return marks(view, Math.max(1, roundUp(framesPerMark)), (frame) => count(frame));
  }
  const seconds = framesPerMark / rateHz;
  const step =
    seconds < 1
      ? roundUp(seconds * 1000) / 1000
      : (STEPS_SECONDS.find((s) => s >= seconds) ?? 7200);
  const decimals = step < 0.01 ? 3 : step < 0.1 ? 2 : step < 1 ? 1 : 0;
  return marks(view, step * rateHz, (frame) => {
    const time = frame / rateHz;
    const minutes = Math.floor(time / 60 + 1e-9);
    const rest = (time - minutes * 60).toFixed(decimals);
    return `${minutes}:${rest.padStart(decimals > 0 ? decimals + 3 : 2, '0')}`;
  });
}

/** Every so many bars, or the beats of each, or halves and so on of those. */
function barMarks(view: View, framesPerMark: number, rateHz: number, tempo: Tempo) {
  const beat = framesPerBeat(tempo, rateHz);
  const bar = beat * tempo.beatsPerBar;
  const beats = framesPerMark / beat;
  const step =
    framesPerMark > bar
      ? bar * 2 ** Math.ceil(Math.log2(framesPerMark / bar))
      : beats > 1
        ? bar
        : beat * 2 ** Math.ceil(Math.log2(beats));
  return marks(view, step, (frame) => barLabel(frame, tempo, rateHz));
}

/** 1, 2 or 5 times a power of ten. */
function roundUp(value: number): number {
  const power = 10 ** Math.floor(Math.log10(Math.max(1, value)));
  return power * ([1, 2, 5, 10].find((n) => n * power >= value) ?? 10);
}

function marks(view: View, step: number, label: (frame: number) => string) {
  const first = Math.ceil(view.start / step);
  const count = Math.max(0, Math.floor((view.end - 1) / step) - first + 1);
  return Array.from({ length: count }, (_, i) => {
    const frame = (first + i) * step;
    return { frame: Math.round(frame), label: label(frame) };
  });
}
