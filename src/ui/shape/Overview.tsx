'use client';

import { useEffect, type PointerEvent } from 'react';
import type { Sound } from '@/wire';
import { drawLane, inkOf, overlay, prepare } from '../waveform/draw';
import { usePeaks, type View } from '../waveform/peaks';
import { useThemeTick, useWidth } from '../waveform/useWidth';
import type { Span } from './keep';

/** The whole sound in small, with the part that the large picture shows framed. Click or drag to go there. */
export function Overview({
  sound,
  view,
  span,
  onView,
}: {
  sound: Sound;
  view: View;
  span: Span;
  onView: (view: View) => void;
}) {
  const frames = sound.facts?.frames ?? 0;
  const { ref, width } = useWidth<HTMLCanvasElement>();
  const data = usePeaks(sound, { start: 0, end: frames }, width);
  const tick = useThemeTick();
  useEffect(() => {
    const drawing = ref.current && prepare(ref.current);
    if (!drawing || !data) return;
    const ink = inkOf(ref.current!);
    const { context, height } = drawing;
    const x = (frame: number) => (frame / frames) * drawing.width;
    context.fillStyle = ink.tint;
    context.fillRect(x(span.start), 0, x(span.end) - x(span.start), height);
    const place = { covers: data.view, view: data.view, width: drawing.width, top: 0, height };
    drawLane(context, { data: overlay(data.peaks), ...place }, ink);
  }, [ref, data, frames, span, width, tick]);
  const go = (event: PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    const length = view.end - view.start;
    const middle = ((event.clientX - box.left) / box.width) * frames;
    const start = Math.round(Math.max(0, Math.min(frames - length, middle - length / 2)));
    onView({ start, end: start + length });
  };
  return (
    <div
      className="relative h-12 cursor-pointer touch-none"
      title="The whole sound; click to go there"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        go(event);
      }}
      onPointerMove={(event) => event.buttons > 0 && go(event)}
    >
      <canvas ref={ref} className="size-full" role="img" aria-label="The whole sound" />
      <div
        aria-hidden
        className="border-base-content pointer-events-none absolute inset-y-0 rounded-sm border-2"
        style={{
          left: `${(view.start / frames) * 100}%`,
          width: `max(4px, ${((view.end - view.start) / frames) * 100}%)`,
        }}
      />
    </div>
  );
}
