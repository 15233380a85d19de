import { create } from 'zustand';
import type { Scale } from '../waveform/draw';
import type { View } from '../waveform/tiles';

/** Frames from `start` up to, not including, `end`. */
export interface Span {
  start: number;
  end: number;
}

/**
 * Which form of the sound the picture shows; views and marks are in its frames. `loop` is the sound in front of
 * its loop step, the mark being the loop.
 */
export type Shown = 'source' | 'shaped' | 'loop';

export const nudges = {
  frame: 'one frame',
  millisecond: 'one millisecond',
  crossing: 'to the next zero crossing',
} as const;
export type Nudge = keyof typeof nudges;

export const rulers = { time: 'Time', frames: 'Frames', bars: 'Bars' } as const;
export type RulerUnit = keyof typeof rulers;

interface Desk {
  /** The sound that lies on it. */
  soundId: number;
  shown: Shown;
  view: View;
  /** What is marked; null for nothing. */
  mark: Span | null;
  /** A part of the recipe that is heard alone: as many of its steps, and what it is called. */
  part: { steps: number; label: string } | null;
}

/** How people like to look at sounds; the same for all of them. */
interface Habits {
  scale: Scale;
  ruler: RulerUnit;
  isSnapping: boolean;
  hasSpectrogram: boolean;
  nudge: Nudge;
  /** Which of the widths of the lens over a loop's seam. */
  lens: number;
}

export const useDesk = create<Desk>(() => ({
  soundId: 0,
  shown: 'source',
  view: { start: 0, end: 1 },
  mark: null,
  part: null,
}));

export const useHabits = create<Habits>(() => ({
  scale: 'linear',
  ruler: 'time',
  isSnapping: false,
  hasSpectrogram: false,
  nudge: 'frame',
  lens: 3,
}));

/** Puts a sound on the desk, all of it in view, nothing marked. */
export function layOut(soundId: number, frames: number): void {
  useDesk.setState({
    soundId,
    shown: 'source',
    view: { start: 0, end: frames },
    mark: null,
    part: null,
  });
}
