'use client';

import { useEffect, useMemo } from 'react';
import { thumbnailColumns } from '@/core/measure/thumbnail';
import type { Sound } from '@/wire';
import { currentVersion, position, useListening } from '../strip/listening';
import { drawLane, inkOf, overlay, prepare } from './draw';
import { usePeaks } from './peaks';
import { useThemeTick, useWidth } from './useWidth';

/** A small picture of a whole sound; clicking plays from there. */
export function Thumbnail({ sound, onPlay }: { sound: Sound; onPlay: (frame: number) => void }) {
  const frames = sound.facts?.frames ?? 0;
  const { ref, width } = useWidth<HTMLCanvasElement>();
  const columns = useColumns(sound, frames, width);
  const tick = useThemeTick();
  useEffect(() => {
    const drawing = ref.current && prepare(ref.current);
    if (!drawing || !columns) return;
    const { context, height } = drawing;
    const whole = { start: 0, end: frames };
    const lane = { covers: whole, view: whole, width: drawing.width, top: 0, height };
    drawLane(context, { ...lane, data: columns }, inkOf(ref.current!));
  }, [ref, columns, frames, width, tick]);
  return (
    <div className="relative h-8 w-full">
      <canvas
        ref={ref}
        className="size-full cursor-pointer"
        title="Play from here"
        onClick={(event) => {
          event.stopPropagation();
          const box = event.currentTarget.getBoundingClientRect();
          onPlay(Math.floor(((event.clientX - box.left) / box.width) * frames));
        }}
      />
      <PlayLine sound={sound} />
    </div>
  );
}

/** The picture that came with the list, or for sounds of before there was one the one that is fetched. */
function useColumns(sound: Sound, frames: number, width: number): number[] | null {
  const { thumbnail } = sound;
  const own = useMemo(() => thumbnail && thumbnailColumns(thumbnail), [thumbnail]);
  const fetched = usePeaks(sound, { start: 0, end: frames }, own ? 0 : width);
  return own || (fetched ? overlay(fetched.peaks) : null);
}

/** A line where the sound is being heard. */
function PlayLine({ sound }: { sound: Sound }) {
  const isHeard = useListening((s) => s.playing && s.current === `source-${sound.id}`);
  const { ref } = useWidth<HTMLDivElement>();
  useEffect(() => {
    if (!isHeard) return;
    let request = 0;
    const move = () => {
      const frames = currentVersion(useListening.getState())?.frames ?? 1;
      if (ref.current) ref.current.style.left = `${(position() / frames) * 100}%`;
      request = requestAnimationFrame(move);
    };
    move();
    return () => cancelAnimationFrame(request);
  }, [isHeard, ref]);
  return isHeard ? (
    <div
      ref={ref}
      aria-hidden
      className="bg-primary pointer-events-none absolute top-0 h-full w-px"
    />
  ) : null;
}
