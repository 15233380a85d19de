'use client';

import { FastForward, Waves } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useStore } from 'zustand';
import { clockText, ISLAND_PACE, turnAfter } from '@/core/host/mod/tide';
import { formatTime } from '../../shared/format';
import type { ModRun } from './run';

/** The island’s clock: when the tide turns, and what will begin then. */
export function TideClock({ run, isHeard }: { run: ModRun; isHeard: boolean }) {
  const { place } = useStore(run.store);
  const now = useIslandTime(run);
  const next = turnAfter(now);
  const wait = (next.at - now) / ISLAND_PACE;
  const music = run.musicOf(place);
  return (
    <section
      aria-label="Tide clock"
      className="border-base-300 flex flex-wrap items-center gap-x-4 gap-y-2 border-b px-4 py-2"
    >
      <p
        className="font-serif text-2xl"
        title="The island’s time; a minute of it is a second of ours"
      >
        {clockText(now)}
      </p>
      <p className="min-w-52 flex-1" aria-live="off">
        <Waves size={14} aria-hidden className="text-info mr-1 inline" />
        {next.water} water in <span className="font-semibold">{formatTime(wait, 0)}</span>, at{' '}
        {clockText(next.at)}.{' '}
        <span className="text-soft">
          {music
            ? `Then ${music.file} begins at ${place.title}, ${formatTime(music.seconds, 0)}${music.loop ? ', and repeats' : ', once'}.`
            : `Then nothing begins: ${place.title} has no music.`}
          {isHeard && ' It sounds now.'}
        </span>
      </p>
      <span className="flex gap-1.5">
        <button
          className="btn btn-paper btn-sm"
          title="An hour of the island on"
          onClick={() => run.moveOn(1)}
        >
          + 1 h
        </button>
        <button
          className="btn btn-primary btn-sm"
          title="On to three seconds before the tide turns; once more, and it turns (N)"
          onClick={() => run.goToTurn()}
        >
          <FastForward size={14} /> To the turn
        </button>
      </span>
    </section>
  );
}

/** Seconds of the island, a few times a second. */
export function useIslandTime(run: ModRun): number {
  const [now, setNow] = useState(() => run.now());
  const clock = useStore(run.store, (state) => state.clock);
  useEffect(() => {
    const look = () => setNow(run.now());
    look();
    const timer = setInterval(look, 200);
    return () => clearInterval(timer);
  }, [run, clock]);
  return now;
}
