'use client';

import { useQuery } from '@tanstack/react-query';
import { memo, useEffect, useMemo, useRef } from 'react';
import { thumbnailColumns } from '@/core/measure/thumbnail';
import type { Sound } from '@/wire';
import { call } from '../shared/api';
import { inBatches } from '../shared/batches';
import { useProjectId } from '../shared/project';
import { currentVersion, position, useListening } from '../strip/listening';
import { overlay } from './draw';
import { outlineOf, PICTURE_UNITS, type Outline } from './outline';
import { pictureOfSource, useColumns } from './useColumns';

/** Columns that are asked for where the list brought no picture. */
const FETCHED_COLUMNS = 160;

/** A small picture of a whole sound; clicking plays from there. */
export function Thumbnail({ sound, onPlay }: { sound: Sound; onPlay: (frame: number) => void }) {
  const frames = sound.facts?.frames ?? 0;
  return (
    <div
      className="relative h-8 w-full cursor-pointer"
      title="Play from here"
      onClick={(event) => {
        event.stopPropagation();
        const box = event.currentTarget.getBoundingClientRect();
        onPlay(Math.floor(((event.clientX - box.left) / box.width) * frames));
      }}
    >
      <Whole sound={sound} />
      <PlayLine sound={sound} />
    </div>
  );
}

const MOST_PICTURES = 200;

const loadThumbnail = inBatches(MOST_PICTURES, async (projectId, ids) => {
  const found = await call<Record<number, string | null>>(
    `projects/${projectId}/thumbnails?of=${ids.join(',')}`,
  );
  return new Map(Object.entries(found).map(([id, thumbnail]) => [Number(id), thumbnail]));
});

/** The picture of a whole sound; lines come and go while a list is scrolled, their pictures stay. */
function Whole({ sound }: { sound: Sound }) {
  const projectId = useProjectId();
  const { data } = useQuery({
    queryKey: ['thumbnail', sound.sourceSha256],
    queryFn: async () => {
      const thumbnail = await loadThumbnail(projectId, sound.id);
      return thumbnail === null ? null : outlineOf(thumbnailColumns(thumbnail));
    },
    staleTime: Infinity,
    gcTime: 600_000,
    enabled: sound.facts !== null,
  });
  if (data === undefined) return null;
  return data ? <Picture outline={data} /> : <Fetched sound={sound} />;
}

/** For sounds that were read before lists had pictures. */
function Fetched({ sound }: { sound: Sound }) {
  const of = useMemo(() => pictureOfSource(sound), [sound]);
  const view = useMemo(() => ({ start: 0, end: of.frames }), [of]);
  const fetched = useColumns(of, view, FETCHED_COLUMNS);
  return fetched ? <Picture outline={outlineOf(overlay(fetched.channels))} /> : null;
}

/** Paths, not a canvas: nothing is measured, and the colours are those of the page. */
const Picture = memo(function Picture({ outline: { columns, wave, body } }: { outline: Outline }) {
  return (
    <svg
      className="size-full fill-current"
      viewBox={`0 0 ${columns} ${PICTURE_UNITS}`}
      preserveAspectRatio="none"
      aria-hidden
    >
      <path d={wave} opacity={0.45} />
      <path d={body} opacity={0.9} />
    </svg>
  );
});

/** A line where the sound is being heard. */
function PlayLine({ sound }: { sound: Sound }) {
  const isHeard = useListening((s) => s.playing && s.current === `source-${sound.id}`);
  const line = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!isHeard) return;
    let request = 0;
    const move = () => {
      const frames = currentVersion(useListening.getState())?.frames ?? 1;
      if (line.current) line.current.style.left = `${(position() / frames) * 100}%`;
      request = requestAnimationFrame(move);
    };
    move();
    return () => cancelAnimationFrame(request);
  }, [isHeard]);
  return isHeard ? (
    <div
      ref={line}
      aria-hidden
      className="bg-primary pointer-events-none absolute top-0 h-full w-px"
    />
  ) : null;
}
