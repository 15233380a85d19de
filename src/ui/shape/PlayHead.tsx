'use client';

import { useEffect, useRef } from 'react';
import type { Sound } from '@/wire';
import { currentVersion, position, useListening } from '../strip/listening';
import type { View } from '../waveform/peaks';

/** The place in the source that is heard, or where playing will begin. */
export function PlayHead({ sound, view }: { sound: Sound; view: View }) {
  const line = useRef<HTMLDivElement>(null);
  useEffect(() => {
    let request = 0;
    const move = () => {
      request = requestAnimationFrame(move);
      const element = line.current;
      if (!element) return;
      const frame = sourceFrame(sound);
      const share = frame === null ? -1 : (frame - view.start) / (view.end - view.start);
      element.hidden = share < 0 || share > 1;
      element.style.left = `${share * 100}%`;
    };
    move();
    return () => cancelAnimationFrame(request);
  }, [sound, view]);
  return (
    <div
      ref={line}
      aria-hidden
      className="border-base-content pointer-events-none absolute inset-y-0 border-l border-dashed"
    />
  );
}

/** Frame of the source that is heard in whatever version; null when another sound is in the strip. */
export function sourceFrame(sound: Sound): number | null {
  const state = useListening.getState();
  const version = currentVersion(state);
  const isThis = state.versions[0]?.key === `source-${sound.id}`;
  if (!version || !isThis || !sound.facts) return null;
  const seconds = position() / version.rateHz + version.offsetSeconds;
  return Math.round(seconds * sound.facts.sampleRateHz);
}
