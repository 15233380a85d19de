import type { View } from './tiles';

export interface Ink {
  wave: string;
  body: string;
  axis: string;
  cut: string;
  tint: string;
  quiet: string;
  paper: string;
  jewel: string;
  warning: string;
}

/** Colours of the theme that the canvas is in. */
export function inkOf(element: HTMLElement): Ink {
  const style = getComputedStyle(element);
  const color = (name: string) => style.getPropertyValue(name).trim();
  const content = color('--color-base-content');
  const mix = (share: number) => `color-mix(in oklab, ${content} ${share}%, transparent)`;
  return {
    wave: mix(45),
    body: mix(95),
    axis: color('--color-base-300'),
    cut: `color-mix(in oklab, ${color('--color-base-200')} 78%, transparent)`,
    tint: `color-mix(in oklab, ${color('--color-primary')} 9%, transparent)`,
    quiet: mix(60),
    paper: color('--color-base-100'),
    jewel: color('--color-primary'),
    warning: color('--color-warning'),
  };
}

/** Fits a canvas to its element at the screen's own resolution, and clears it. */
export function prepare(
  canvas: HTMLCanvasElement,
): { context: CanvasRenderingContext2D; width: number; height: number } | null {
  const { clientWidth: width, clientHeight: height } = canvas;
  const context = canvas.getContext('2d');
  if (!context || width === 0) return null;
  const ratio = window.devicePixelRatio || 1;
  canvas.width = Math.round(width * ratio);
  canvas.height = Math.round(height * ratio);
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  context.clearRect(0, 0, width, height);
  return { context, width, height };
}

/** How amplitudes become heights: in proportion, or by their level. */
export type Scale = 'linear' | 'db';

/** What lies on the axis when heights are levels. */
const SCALE_FLOOR_DB = 60;

/** Height of an amplitude, −1 … 1. */
export function heightOf(value: number, scale: Scale): number {
  const size = Math.min(1, Math.abs(value));
  if (scale === 'linear') return Math.sign(value) * size;
  const above = size > 0 ? 1 + (20 * Math.log10(size)) / SCALE_FLOOR_DB : 0;
  return Math.sign(value) * Math.max(0, above);
}

interface Lane {
  /** `[min, max, rms]` a column. */
  data: ArrayLike<number>;
  /** The frames that the data covers, which may differ from the view for a moment. */
  covers: View;
  view: View;
  width: number;
  top: number;
  height: number;
  scale?: Scale;
}

/** Draws one channel: extremes pale, RMS dark; single frames as points and steps when close. */
export function drawLane(context: CanvasRenderingContext2D, lane: Lane, ink: Ink): void {
  const { data, covers, view, width, top, height, scale: how = 'linear' } = lane;
  const middle = top + height / 2;
  const scale = (height / 2) * 0.94;
  context.fillStyle = ink.axis;
  context.fillRect(0, Math.round(middle), width, 1);
  const columns = data.length / 3;
  if (columns === 0) return;
  const framesPerColumn = (covers.end - covers.start) / columns;
  const pixelsPerColumn = (framesPerColumn / (view.end - view.start)) * width;
  const left = ((covers.start - view.start) / (view.end - view.start)) * width;
  const y = (value: number) => middle - heightOf(value, how) * scale;
  if (framesPerColumn <= 1) {
    drawFrames(context, data, left, pixelsPerColumn, y, ink);
    return;
  }
  const bar = Math.max(1, pixelsPerColumn);
  // One path for all columns: filling each for itself takes several times as long.
  const fill = (color: string, span: (i: number) => readonly [high: number, low: number]) => {
    context.fillStyle = color;
    context.beginPath();
    for (let i = 0; i < columns; i++) {
      const [high, low] = span(i);
      if (high < low) continue;
      const from = y(high);
      context.rect(left + i * pixelsPerColumn, from, bar, Math.max(1, y(low) - from));
    }
    context.fill();
  };
  if (how === 'db') {
    // A level has no sign: both halves show the same.
    const largest = (i: number) => Math.max(-data[i * 3]!, data[i * 3 + 1]!);
    fill(ink.wave, (i) => [largest(i), -largest(i)]);
    fill(ink.body, (i) => [data[i * 3 + 2]!, -data[i * 3 + 2]!]);
    return;
  }
  fill(ink.wave, (i) => [data[i * 3 + 1]!, data[i * 3]!]);
  // The body is what is heard as loudness; it cannot leave the extremes.
  fill(ink.body, (i) => [
    Math.min(data[i * 3 + 2]!, data[i * 3 + 1]!),
    Math.max(-data[i * 3 + 2]!, data[i * 3]!),
  ]);
}

/** From this width on, single frames are drawn as points. */
const POINT_PIXELS = 5;

function drawFrames(
  context: CanvasRenderingContext2D,
  data: ArrayLike<number>,
  left: number,
  step: number,
  y: (value: number) => number,
  ink: Ink,
): void {
  context.strokeStyle = ink.body;
  context.lineWidth = 1;
  context.beginPath();
  for (let i = 0; i * 3 < data.length; i++) {
    const x = left + i * step;
    const level = y(data[i * 3]!);
    // A frame holds its value until the next one.
    if (i === 0) context.moveTo(x, level);
    else context.lineTo(x, level);
    context.lineTo(x + step, level);
  }
  context.stroke();
  if (step < POINT_PIXELS) return;
  context.fillStyle = ink.body;
  for (let i = 0; i * 3 < data.length; i++) {
    context.beginPath();
    context.arc(left + i * step + step / 2, y(data[i * 3]!), Math.min(3.5, step / 3), 0, 7);
    context.fill();
  }
}

/** All channels laid over each other, for small pictures. */
export function overlay(channels: readonly ArrayLike<number>[]): number[] {
  const [first] = channels;
  return Array.from(first ?? [], (_, i) => {
    const values = channels.map((channel) => channel[i] ?? 0);
    return i % 3 === 0 ? Math.min(...values) : Math.max(...values);
  });
}
