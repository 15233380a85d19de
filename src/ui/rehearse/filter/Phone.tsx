'use client';

import { VolumeX } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useStore } from 'zustand';
import type { Rehearsal } from '../rehearsing';
import { useAt } from '../useRehearsal';
import { Keeper } from './Keeper';
import type { FilterRun } from './run';

/** So long one sees what a trigger was. */
const SEEN_MS = { mouth: 900, blink: 260, hand: 1_100 } as const;

/** The upright picture of the filter: what the camera sees, the hint, and that it is muted. */
export function Phone({ rehearsal, run }: { rehearsal: Rehearsal; run: FilterRun }) {
  const { last, stage, openedAt, choices } = useStore(run.store);
  const sounding = useAt(rehearsal, (state) => state.sounding);
  const now = usePicture();
  const since = (name: keyof typeof SEEN_MS) =>
    last?.trigger === name && now - last.at < SEEN_MS[name];
  const isMuted = stage.heardFrom === null;
  const { text, from, seconds } = choices.hint;
  const open = (now - openedAt) / 1_000;
  const isHinting = isMuted && open >= from && open < from + seconds && text.trim() !== '';
  const glow = sounding.size > 0 && !isMuted ? Math.min(1, 0.25 + 2 * rehearsal.peak()) : 0;
  return (
    <div
      className="border-base-content bg-neutral relative mx-auto w-full max-w-52 overflow-hidden rounded-[1.4rem] border-[6px]"
      data-muted={isMuted}
    >
      <button
        className="block w-full"
        aria-label="Tap the picture"
        title="Tap (T)"
        onClick={() => run.happen('tap')}
      >
        <Keeper
          isMouthOpen={since('mouth')}
          isBlinking={since('blink')}
          isHandSeen={since('hand')}
          glow={glow}
        />
      </button>
      {isMuted && (
        <p className="bg-neutral/80 text-neutral-content absolute top-3 left-3 flex items-center gap-1.5 rounded-full px-2.5 py-1 text-xs">
          <VolumeX size={13} aria-hidden /> muted until a tap
        </p>
      )}
      {isHinting && (
        <p
          role="status"
          className="bg-neutral-content text-neutral pointer-events-none absolute inset-x-4 bottom-6 rounded px-3 py-1.5 text-center font-semibold"
        >
          {text}
        </p>
      )}
    </div>
  );
}

/** The page’s clock, once a picture; slower where somebody wants less motion. */
function usePicture(): number {
  const [now, setNow] = useState(() => performance.now());
  useEffect(() => {
    const isCalm = matchMedia('(prefers-reduced-motion: reduce)').matches;
    if (isCalm) {
      const timer = setInterval(() => setNow(performance.now()), 250);
      return () => clearInterval(timer);
    }
    let request = requestAnimationFrame(function look(time) {
      setNow(time);
      request = requestAnimationFrame(look);
    });
    return () => cancelAnimationFrame(request);
  }, []);
  return now;
}
