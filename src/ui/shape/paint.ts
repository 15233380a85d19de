import type { ClippedRun } from '@/core/measure/clipping';
import type { Trace } from '@/core/recipe/trace';
import { drawLane, heightOf, inkOf, prepare, type Ink, type Scale } from '../waveform/draw';
import { columnsOf, type Pictured, type View } from '../waveform/tiles';
import type { Span } from './desk';

/** Everything that a picture of a sound shows. */
export interface Painted {
  pictured: Pictured;
  view: View;
  mark: Span | null;
  scale: Scale;
  channelCount: number;
  /** Where the recipe takes the source; null where the result itself is shown. */
  trace: Trace | null;
  /** The parts around a loop, where the mark is one. */
  parts: { intro: Span | null; tail: Span | null; fade: Span | null } | null;
  /** Where the source is clipped; null to mark whatever is louder than full scale. */
  clipped: readonly ClippedRun[] | null;
}

type Drawing = NonNullable<ReturnType<typeof prepare>>;

export function paint(canvas: HTMLCanvasElement, painted: Painted): void {
  const drawing = prepare(canvas);
  if (!drawing) return;
  const { pictured, view, mark, scale, trace, channelCount } = painted;
  const { context, width, height } = drawing;
  const ink = inkOf(canvas);
  const x = (frame: number) => ((frame - view.start) / (view.end - view.start)) * width;
  if (mark) {
    context.fillStyle = ink.tint;
    context.fillRect(x(mark.start), 0, x(mark.end) - x(mark.start), height);
  }
  const lane = height / channelCount;
  if (painted.parts) drawParts(drawing, painted.parts, x, ink);
  if (scale === 'db') drawLevels(drawing, channelCount, ink);
  const columns = columnsOf(pictured, view, width);
  columns?.channels.forEach((data, c) => {
    const place = { covers: columns.covers, view, width, top: c * lane, height: lane, scale };
    drawLane(context, { data, ...place }, ink);
  });
  if (scale === 'db') drawLevelNames(drawing, channelCount, ink);
  if (trace) drawRecipe(drawing, trace, view, channelCount, ink);
  const runs = painted.clipped ?? loudRuns(columns, view);
  drawClipped(drawing, runs, x, lane, ink);
}

/** What lies around a loop: hatched, with its name; the crossfade as a slope. */
function drawParts(
  { context, width, height }: Drawing,
  { intro, tail, fade }: NonNullable<Painted['parts']>,
  x: (frame: number) => number,
  ink: Ink,
): void {
  const named = [
    { span: intro, name: 'intro' },
    { span: tail, name: 'tail' },
  ];
  context.font = '11px sans-serif';
  context.textAlign = 'left';
  for (const { span, name } of named) {
    if (!span || span.end === span.start) continue;
    const [from, to] = [Math.max(0, x(span.start)), Math.min(width, x(span.end))];
    if (to <= from) continue;
    context.fillStyle = ink.axis;
    for (let at = from - (from % 8); at < to; at += 8) {
      if (at >= from) context.fillRect(at, 0, 1, height);
    }
    context.fillStyle = ink.quiet;
    if (to - from > 30) context.fillText(name, from + 4, height - 5);
  }
  if (!fade || fade.end === fade.start) return;
  context.fillStyle = ink.tint;
  context.beginPath();
  context.moveTo(x(fade.start), height);
  context.lineTo(x(fade.end), 0);
  context.lineTo(x(fade.end), height);
  context.fill();
}

/** Lines at round levels, above and below the middle of every lane. */
function drawLevels({ context, width, height }: Drawing, channelCount: number, ink: Ink): void {
  const lane = height / channelCount;
  for (let c = 0; c < channelCount; c++) {
    for (const db of [-6, -12, -24, -48]) {
      const away = heightOf(10 ** (db / 20), 'db') * (lane / 2) * 0.94;
      context.fillStyle = ink.axis;
      for (const side of [-1, 1]) {
        context.fillRect(0, Math.round((c + 0.5) * lane + side * away), width, 1);
      }
    }
  }
}

/** What the lines stand for, over the sound. */
function drawLevelNames({ context, width, height }: Drawing, channelCount: number, ink: Ink): void {
  const lane = height / channelCount;
  context.font = '10px sans-serif';
  context.textAlign = 'right';
  for (let c = 0; c < channelCount; c++) {
    for (const db of [-12, -24, -48]) {
      const away = heightOf(10 ** (db / 20), 'db') * (lane / 2) * 0.94;
      const name = `${String(db).replace('-', '−')} dB`;
      const y = (c + 0.5) * lane - away;
      context.fillStyle = ink.paper;
      context.fillRect(width - 40, y - 6, 40, 12);
      context.fillStyle = ink.quiet;
      context.fillText(name, width - 3, y + 4);
    }
  }
}

/** Pale where the recipe cuts away; a line where it fades, as high as what is left. */
function drawRecipe(
  { context, width, height }: Drawing,
  trace: Trace,
  view: View,
  channelCount: number,
  ink: Ink,
): void {
  const perPixel = (view.end - view.start) / width;
  const left = Array.from({ length: Math.ceil(width) }, (_, i) =>
    trace.envelope(view.start + (i + 0.5) * perPixel),
  );
  context.fillStyle = ink.cut;
  left.forEach((gain, i) => {
    if (gain === null) context.fillRect(i, 0, 1, height);
  });
  const lane = height / channelCount;
  context.strokeStyle = ink.jewel;
  context.lineWidth = 1.5;
  for (let c = 0; c < channelCount; c++) {
    for (const side of [-1, 1]) {
      context.beginPath();
      let isDown = false;
      left.forEach((gain, i) => {
        const isFading =
          gain !== null && (gain < 1 || (left[i - 1] ?? 1) < 1 || (left[i + 1] ?? 1) < 1);
        const y = (c + 0.5) * lane + side * (gain ?? 0) * (lane / 2) * 0.94;
        if (isFading && isDown) context.lineTo(i + 0.5, y);
        else if (isFading) context.moveTo(i + 0.5, y);
        isDown = isFading;
      });
      context.stroke();
    }
  }
}

/** Columns in which a result is louder than full scale: a build would hold them there. */
function loudRuns(columns: ReturnType<typeof columnsOf>, view: View): ClippedRun[] {
  if (!columns) return [];
  return columns.channels.flatMap((data, channel) => {
    const per = (view.end - view.start) / (data.length / 3);
    const found: ClippedRun[] = [];
    for (let i = 0; i * 3 < data.length; i++) {
      if (data[i * 3 + 1]! <= 1 && data[i * 3]! >= -1) continue;
      const startFrame = Math.round(view.start + i * per);
      const last = found.at(-1);
      if (last && last.startFrame + last.frames >= startFrame - per) {
        last.frames = startFrame + per - last.startFrame;
      } else found.push({ channel, startFrame, frames: per });
    }
    return found;
  });
}

/** A stroke along the upper edge of the lane, wide enough to be found. */
function drawClipped(
  { context, width }: Drawing,
  runs: readonly ClippedRun[],
  x: (frame: number) => number,
  lane: number,
  ink: Ink,
): void {
  context.fillStyle = ink.warning;
  for (const { channel, startFrame, frames } of runs) {
    const [from, to] = [x(startFrame), x(startFrame + frames)];
    if (to < 0 || from > width) continue;
    const wide = Math.max(4, to - from);
    context.fillRect((from + to - wide) / 2, channel * lane + 1, wide, 5);
  }
}
