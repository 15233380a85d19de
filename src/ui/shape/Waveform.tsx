'use client';

import { useEffect, useRef, type PointerEvent } from 'react';
import type { Sound } from '@/wire';
import { formatTime } from '../shared/format';
import { drawLane, inkOf, prepare } from '../waveform/draw';
import { usePeaks, type View } from '../waveform/peaks';
import { useThemeTick, useWidth } from '../waveform/useWidth';
import type { Span } from './keep';
import { PlayHead } from './PlayHead';
import { pan, rulerMarks, zoom } from './view';

/** A drag of fewer pixels than this is a click. */
const CLICK_PIXELS = 4;

interface Props {
  sound: Sound;
  view: View;
  span: Span;
  onView: (view: View) => void;
  /** While dragging. */
  onSpan: (span: Span) => void;
  /** When the drag is over. */
  onSpanDone: (span: Span) => void;
  onSeek: (frame: number) => void;
}

/** The large picture: one lane a channel, what is kept and what is cut away, handles to move its ends. */
export function Waveform(props: Props) {
  const { sound, view, span, onView, onSpan, onSpanDone, onSeek } = props;
  const frames = sound.facts?.frames ?? 0;
  const rateHz = sound.facts?.sampleRateHz ?? 1;
  const { ref, width } = useWidth<HTMLCanvasElement>();
  const data = usePeaks(sound, view, width);
  const tick = useThemeTick();
  const drag = useRef<{ x: number; frame: number; moved: boolean } | null>(null);
  const xOf = (frame: number) => ((frame - view.start) / (view.end - view.start)) * width;

  useEffect(() => {
    const drawing = ref.current && prepare(ref.current);
    if (!drawing || !data) return;
    const ink = inkOf(ref.current!);
    const { context, height } = drawing;
    const x = (frame: number) => ((frame - view.start) / (view.end - view.start)) * drawing.width;
    context.fillStyle = ink.tint;
    context.fillRect(x(span.start), 0, x(span.end) - x(span.start), height);
    const lane = height / data.peaks.length;
    data.peaks.forEach((channel, c) => {
      const place = { covers: data.view, view, width: drawing.width, top: c * lane, height: lane };
      drawLane(context, { data: channel, ...place }, ink);
    });
    context.fillStyle = ink.cut;
    context.fillRect(0, 0, Math.max(0, x(span.start)), height);
    context.fillRect(x(span.end), 0, Math.max(0, drawing.width - x(span.end)), height);
  }, [ref, data, view, span, width, tick]);

  useWheel(ref, (event, share) => {
    const at = view.start + share * (view.end - view.start);
    const sideways = event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY);
    if (sideways) {
      onView(pan(view, frames, ((event.deltaX || event.deltaY) / width) * (view.end - view.start)));
    } else onView(zoom(view, frames, Math.exp(event.deltaY * 0.002), at));
  });

  const frameAt = (event: PointerEvent) => {
    const box = ref.current!.getBoundingClientRect();
    const share = (event.clientX - box.left) / box.width;
    const frame = Math.round(view.start + share * (view.end - view.start));
    return Math.max(0, Math.min(frames, frame));
  };
  const between = (a: number, b: number): Span => ({ start: Math.min(a, b), end: Math.max(a, b) });
  const onMove = (event: PointerEvent) => {
    const begun = drag.current;
    if (!begun) return;
    if (Math.abs(event.clientX - begun.x) >= CLICK_PIXELS) begun.moved = true;
    const next = between(begun.frame, frameAt(event));
    if (begun.moved && next.end > next.start) onSpan(next);
  };
  const onUp = (event: PointerEvent) => {
    const begun = drag.current;
    drag.current = null;
    if (!begun) return;
    const next = between(begun.frame, frameAt(event));
    if (begun.moved && next.end > next.start) onSpanDone(next);
    else onSeek(Math.min(frames - 1, begun.frame));
  };

  const handle = (end: 'start' | 'end', label: string) => (
    <Handle
      label={label}
      frame={span[end]}
      rateHz={rateHz}
      most={frames}
      left={xOf(span[end])}
      isVisible={xOf(span[end]) >= -1 && xOf(span[end]) <= width + 1}
      frameAt={frameAt}
      onMove={(frame, done) => {
        const fixed =
          end === 'start' ? Math.min(frame, span.end - 1) : Math.max(frame, span.start + 1);
        (done ? onSpanDone : onSpan)({ ...span, [end]: fixed });
      }}
    />
  );
  return (
    <div className="select-none">
      <Ruler view={view} rateHz={rateHz} width={width} />
      <div className="border-base-300 bg-base-100 relative h-64 overflow-hidden border-y">
        <canvas
          ref={ref}
          role="img"
          aria-label={`Waveform of ${sound.name}`}
          data-testid="waveform"
          className="size-full cursor-text touch-none"
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            drag.current = { x: event.clientX, frame: frameAt(event), moved: false };
          }}
          onPointerMove={onMove}
          onPointerUp={onUp}
        />
        {handle('start', 'Start of the kept part')}
        {handle('end', 'End of the kept part')}
        <PlayHead sound={sound} view={view} />
      </div>
    </div>
  );
}

function Ruler({ view, rateHz, width }: { view: View; rateHz: number; width: number }) {
  return (
    <div className="relative h-5 overflow-hidden" aria-hidden>
      {width > 0 &&
        rulerMarks(view, rateHz, width).map(({ frame, label }) => (
          <span
            key={frame}
            className="border-base-300 text-soft absolute bottom-0 h-full border-l pl-1 text-xs"
            style={{ left: `${((frame - view.start) / (view.end - view.start)) * 100}%` }}
          >
            {label}
          </span>
        ))}
    </div>
  );
}

function Handle(props: {
  label: string;
  frame: number;
  rateHz: number;
  most: number;
  left: number;
  isVisible: boolean;
  frameAt: (event: PointerEvent) => number;
  onMove: (frame: number, done: boolean) => void;
}) {
  const { label, frame, rateHz, most, left, isVisible, frameAt, onMove } = props;
  if (!isVisible) return null;
  const step = (by: number) => onMove(Math.max(0, Math.min(most, frame + by)), true);
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={most}
      aria-valuenow={frame}
      aria-valuetext={`${formatTime(frame / rateHz)}, frame ${frame}`}
      title={`${label}: ${formatTime(frame / rateHz)}`}
      className="group absolute inset-y-0 -ml-2 flex w-4 cursor-ew-resize touch-none justify-center"
      style={{ left }}
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={(event) => event.buttons > 0 && onMove(frameAt(event), false)}
      onPointerUp={(event) => onMove(frameAt(event), true)}
      onKeyDown={(event) => {
        const by = event.shiftKey ? Math.round(rateHz / 100) : 1;
        if (event.key === 'ArrowLeft') step(-by);
        else if (event.key === 'ArrowRight') step(by);
        else return;
        event.preventDefault();
        event.stopPropagation();
      }}
    >
      <span className="bg-primary h-full w-0.5" />
      <span className="gem bg-primary absolute top-1 size-4" />
    </div>
  );
}

/** React listens to the wheel passively; zooming has to keep the page from scrolling. */
function useWheel(
  ref: React.RefObject<HTMLElement | null>,
  turn: (event: WheelEvent, share: number) => void,
): void {
  const latest = useRef(turn);
  useEffect(() => {
    latest.current = turn;
  });
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const listen = (event: WheelEvent) => {
      event.preventDefault();
      const box = element.getBoundingClientRect();
      latest.current(event, (event.clientX - box.left) / box.width);
    };
    element.addEventListener('wheel', listen, { passive: false });
    return () => element.removeEventListener('wheel', listen);
  }, [ref]);
}
