'use client';

import { useEffect, useRef, type PointerEvent } from 'react';
import { create } from 'zustand';
import { formatTime } from '../../shared/format';
import { heardPlace, useHearing, type Stretch } from './hearing';

/** Where in time is pointed at, in any picture of the pair: it is marked in all of them. Seconds; null for nowhere. */
const usePointed = create<{ at: number | null }>(() => ({ at: null }));

/** For what shows a stretch from its left edge to its right one. */
export function pointing({ from, to }: Stretch) {
  return {
    onPointerMove(event: PointerEvent) {
      const box = event.currentTarget.getBoundingClientRect();
      usePointed.setState({ at: from + ((event.clientX - box.left) / box.width) * (to - from) });
    },
    onPointerLeave: () => usePointed.setState({ at: null }),
  };
}

/** Lines over a picture of a stretch: where is pointed at, and what is heard now. */
export function Places({ stretch, isNamed = false }: { stretch: Stretch; isNamed?: boolean }) {
  const { at } = usePointed();
  const { isPlaying } = useHearing();
  const line = useRef<HTMLSpanElement>(null);
  const { from, to } = stretch;
  useEffect(() => {
    if (!isPlaying) return;
    let frame = 0;
    const draw = () => {
      const place = heardPlace();
      if (line.current) line.current.hidden = place === null || place < from || place > to;
      if (line.current && place !== null) line.current.style.left = percent(place, from, to);
      frame = requestAnimationFrame(draw);
    };
    draw();
    return () => cancelAnimationFrame(frame);
  }, [isPlaying, from, to]);
  return (
    <>
      {isPlaying && (
        <span
          ref={line}
          hidden
          aria-hidden
          data-testid="heard"
          className="bg-base-content pointer-events-none absolute inset-y-0 w-0.5 -translate-x-1/2"
        />
      )}
      {at !== null && at >= from && at <= to && (
        <span
          aria-hidden
          className="border-base-content/60 pointer-events-none absolute inset-y-0 border-l border-dashed"
          style={{ left: percent(at, from, to) }}
        >
          {isNamed && (
            <span className="bg-base-100/90 absolute top-0 left-0 px-1 text-[10px] whitespace-nowrap">
              {formatTime(at)}
            </span>
          )}
        </span>
      )}
    </>
  );
}

function percent(at: number, from: number, to: number): string {
  return `${(100 * (at - from)) / (to - from)}%`;
}
