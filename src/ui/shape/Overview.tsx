'use client';

import { useEffect, useMemo, type PointerEvent } from 'react';
import { drawLane, inkOf, overlay, prepare } from '../waveform/draw';
import { useColumns } from '../waveform/useColumns';
import { useThemeTick, useWidth } from '../waveform/useWidth';
import { useDesk } from './desk';
import { useWorkbench } from './workbench';

/** The whole sound in small, with the part that the large picture shows framed. Click or drag to go there. */
export function Overview() {
  const { shown } = useWorkbench();
  const { frames } = shown.shape;
  const view = useDesk((desk) => desk.view);
  const mark = useDesk((desk) => desk.mark);
  const { ref, width } = useWidth<HTMLCanvasElement>();
  const whole = useMemo(() => ({ start: 0, end: frames }), [frames]);
  const data = useColumns(shown.pictured, whole, width);
  const lane = useMemo(() => data && overlay(data.channels), [data]);
  const tick = useThemeTick();
  useEffect(() => {
    const drawing = ref.current && prepare(ref.current);
    if (!drawing || !lane) return;
    const ink = inkOf(ref.current!);
    const { context, height } = drawing;
    const x = (frame: number) => (frame / frames) * drawing.width;
    if (mark) {
      context.fillStyle = ink.tint;
      context.fillRect(x(mark.start), 0, x(mark.end) - x(mark.start), height);
    }
    const place = { covers: whole, view: whole, width: drawing.width, top: 0, height };
    drawLane(context, { data: lane, ...place }, ink);
  }, [ref, lane, whole, frames, mark, width, tick]);
  const go = (event: PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    const length = view.end - view.start;
    const middle = ((event.clientX - box.left) / box.width) * frames;
    const start = Math.round(Math.max(0, Math.min(frames - length, middle - length / 2)));
    useDesk.setState({ view: { start, end: start + length } });
  };
  return (
    <div
      className="relative h-10 cursor-pointer touch-none"
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
