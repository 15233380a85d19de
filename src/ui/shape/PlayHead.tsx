'use client';

import { useEffect, useRef } from 'react';
import type { Sound } from '@/wire';
import { useDesk } from './desk';
import { shownFrame } from './playing';

/** The place that is heard, or where playing will begin. */
export function PlayHead({ sound }: { sound: Sound }) {
  const line = useRef<HTMLDivElement>(null);
  useEffect(() => {
    let request = 0;
    const move = () => {
      request = requestAnimationFrame(move);
      const element = line.current;
      if (!element) return;
      const { view } = useDesk.getState();
      const frame = shownFrame(sound);
      const share = frame === null ? -1 : (frame - view.start) / (view.end - view.start);
      element.hidden = share < 0 || share > 1;
      element.style.left = `${share * 100}%`;
    };
    move();
    return () => cancelAnimationFrame(request);
  }, [sound]);
  return (
    <div
      ref={line}
      aria-hidden
      className="border-base-content pointer-events-none absolute inset-y-0 border-l border-dashed"
    />
  );
}
