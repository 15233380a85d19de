'use client';

import { useEffect, useMemo, useRef, type PointerEvent } from 'react';
import { formatTime } from '../shared/format';
import { useThemeTick, useWidth } from '../waveform/useWidth';
import { onTile } from '../waveform/tiles';
import { useDesk, useHabits, type Span } from './desk';
import { useLooping } from './loop/looping';
import { intoView, setMark, withEdge } from './marking';
import { paint, type Painted } from './paint';
import { PlayHead } from './PlayHead';
import { seek } from './playing';
import { Ruler } from './Ruler';
import { pan, zoom } from './view';
import { useWorkbench } from './workbench';

/** A drag of fewer pixels than this is a click. */
const CLICK_PIXELS = 4;

/** The large picture: one lane a channel, what is marked, what the recipe cuts away and fades. */
export function Waveform() {
  const { sound, trace, shown, recipe } = useWorkbench();
  const { frames, channelCount } = shown.shape;
  const { ref, width } = useWidth<HTMLCanvasElement>();
  const isShaped = useDesk((desk) => desk.shown !== 'source');
  const isLoop = useDesk((desk) => desk.shown === 'loop');
  const drag = useRef<{ x: number; frame: number; moved: boolean } | null>(null);

  const parts = useLoopParts();
  usePainting(ref, {
    parts,
    pictured: shown.pictured,
    trace: isShaped || recipe.steps.length === 0 ? null : trace,
    clipped: isShaped ? null : (sound.facts?.clippedPlaces ?? []),
    channelCount,
  });
  useWheel(ref, (event, share) => {
    const { view } = useDesk.getState();
    const at = view.start + share * (view.end - view.start);
    const sideways = event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY);
    const by = ((event.deltaX || event.deltaY) / width) * (view.end - view.start);
    useDesk.setState({
      view: sideways
        ? pan(view, frames, by)
        : zoom(view, frames, Math.exp(event.deltaY * 0.002), at),
    });
  });

  const frameAt = (event: PointerEvent) => {
    const { view } = useDesk.getState();
    const box = ref.current!.getBoundingClientRect();
    const share = (event.clientX - box.left) / box.width;
    return Math.max(0, Math.min(frames, Math.round(view.start + share * (view.end - view.start))));
  };
  const between = (a: number, b: number): Span => ({ start: Math.min(a, b), end: Math.max(a, b) });
  const onMove = (event: PointerEvent) => {
    const begun = drag.current;
    if (!begun) return;
    if (Math.abs(event.clientX - begun.x) >= CLICK_PIXELS) begun.moved = true;
    const next = between(begun.frame, frameAt(event));
    if (begun.moved && next.end > next.start) useDesk.setState({ mark: next });
  };
  const onUp = (event: PointerEvent) => {
    const begun = drag.current;
    drag.current = null;
    if (!begun) return;
    const next = between(begun.frame, frameAt(event));
    if (begun.moved && next.end > next.start) void setMark(shown.asked, frames, next);
    else seek(sound, Math.min(frames - 1, begun.frame));
  };
  return (
    <div className="select-none">
      <Ruler width={width} />
      <div
        className={`border-base-300 bg-base-100 relative overflow-hidden border-y ${isLoop ? 'h-32' : 'h-56'}`}
      >
        <canvas
          ref={ref}
          role="img"
          aria-label={`Waveform of ${sound.name}${isShaped ? ', shaped' : ''}`}
          data-testid="waveform"
          className="size-full cursor-text touch-none"
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            drag.current = { x: event.clientX, frame: frameAt(event), moved: false };
          }}
          onPointerMove={onMove}
          onPointerUp={onUp}
        />
        {(['start', 'end'] as const).map((edge) => (
          <Handle key={edge} edge={edge} width={width} frameAt={frameAt} />
        ))}
        <PlayHead sound={sound} />
      </div>
    </div>
  );
}

/** Draws once a picture whenever something of it changes, without React in between. */
function usePainting(
  ref: React.RefObject<HTMLCanvasElement | null>,
  { pictured, trace, clipped, channelCount, parts }: Omit<Painted, 'view' | 'mark' | 'scale'>,
): void {
  const tick = useThemeTick();
  useEffect(() => {
    let request = 0;
    const draw = () => {
      request = 0;
      const { view, mark } = useDesk.getState();
      const { scale } = useHabits.getState();
      if (ref.current) {
        paint(ref.current, { pictured, trace, clipped, channelCount, parts, view, mark, scale });
      }
    };
    const soon = () => void (request ||= requestAnimationFrame(draw));
    const size = new ResizeObserver(soon);
    if (ref.current) size.observe(ref.current);
    const stops = [onTile(soon), useDesk.subscribe(soon), useHabits.subscribe(soon)];
    soon();
    return () => {
      cancelAnimationFrame(request);
      size.disconnect();
      for (const stop of stops) stop();
    };
  }, [ref, pictured, trace, clipped, channelCount, parts, tick]);
}

/** What lies around the loop, while it is the loop that is worked on. */
function useLoopParts(): Painted['parts'] {
  const params = useLooping().looping?.params;
  const isOn = useDesk((desk) => desk.shown === 'loop');
  return useMemo(() => {
    if (!isOn || !params) return null;
    const { startFrame, endFrame, introFrames, tailFrames, seam, crossfadeFrames = 0 } = params;
    return {
      intro: { start: startFrame - introFrames, end: startFrame },
      tail: { start: endFrame, end: endFrame + tailFrames },
      fade: seam === 'crossfade' ? { start: endFrame - crossfadeFrames, end: endFrame } : null,
    };
  }, [isOn, params]);
}

const names = {
  mark: { start: 'Start of the marked part', end: 'End of the marked part' },
  loop: { start: 'Start of the loop', end: 'End of the loop' },
};

function Handle({
  edge,
  width,
  frameAt,
}: {
  edge: keyof Span;
  width: number;
  frameAt: (event: PointerEvent) => number;
}) {
  const { shown } = useWorkbench();
  const { frames, rateHz } = shown.shape;
  const mark = useDesk((desk) => desk.mark);
  const view = useDesk((desk) => desk.view);
  const isLoop = useDesk((desk) => desk.shown === 'loop');
  if (!mark) return null;
  const frame = mark[edge];
  const name = names[isLoop ? 'loop' : 'mark'][edge];
  const left = ((frame - view.start) / (view.end - view.start)) * width;
  if (left < -1 || left > width + 1) return null;
  const move = (to: number) => {
    const next = withEdge(mark, edge, to, frames);
    useDesk.setState({ mark: next });
    return next;
  };
  const step = (by: number) => intoView(move(frame + by)[edge], frames);
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={name}
      aria-valuemin={0}
      aria-valuemax={frames}
      aria-valuenow={frame}
      aria-valuetext={`${formatTime(frame / rateHz)}, frame ${frame}`}
      title={`${name}: ${formatTime(frame / rateHz)}`}
      className="absolute inset-y-0 -ml-2 flex w-4 cursor-ew-resize touch-none justify-center"
      style={{ left }}
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={(event) => event.buttons > 0 && move(frameAt(event))}
      onPointerUp={(event) => void setMark(shown.asked, frames, move(frameAt(event)))}
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
      <span
        className={`gem bg-primary absolute size-4 ${edge === 'start' ? 'top-1' : 'bottom-1'}`}
      />
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
