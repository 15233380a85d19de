'use client';

import { arrayMove } from '@dnd-kit/sortable';
import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react';
import type { Join, JoinPart, PlannedJoin } from '@/core/join/plan';
import { loopPieces } from '@/core/loop/parts';
import type { Sound } from '@/wire';
import { formatTime, plural } from '../../shared/format';
import { useLineKeys } from '../../shared/lineKeys';
import { MiddleCut } from '../../shared/MiddleCut';
import { Grip, SortableLine, SortableList } from '../../shared/Sortable';
import { Tool } from '../../shared/Tool';
import { GapField } from './GapField';

/** The sounds of a join in their order, where each lies and what has to be converted. */
export function PartList({
  join,
  sounds,
  plan,
  onChange,
}: {
  join: Join;
  sounds: ReadonlyMap<number, Sound>;
  plan: PlannedJoin | null;
  onChange: (parts: JoinPart[]) => void;
}) {
  const { parts } = join;
  const keys = useLineKeys(parts);
  return (
    <SortableList
      id="join"
      label="Parts"
      ids={keys}
      className="border-base-300 border-t"
      onMove={(from, to) => onChange(arrayMove(parts, from, to))}
    >
      {parts.map((part, i) => (
        <Part
          key={keys[i]}
          id={keys[i]!}
          place={i + 1}
          part={part}
          name={nameOf(part, sounds)}
          placed={plan?.placed[i] ?? null}
          rateHz={plan?.shape.rateHz ?? 48_000}
          isLast={i === parts.length - 1}
          onGap={(gapSeconds) =>
            onChange(parts.map((old, at) => (at === i ? { ...old, gapSeconds } : old)))
          }
          onMove={(by) => onChange(arrayMove(parts, i, i + by))}
          onRemove={() => onChange(parts.filter((_, at) => at !== i))}
        />
      ))}
    </SortableList>
  );
}

function nameOf({ soundId, piece }: JoinPart, sounds: ReadonlyMap<number, Sound>): string {
  const sound = sounds.get(soundId);
  if (!sound) return 'a sound that is not here any more';
  return piece ? `${sound.name} (${loopPieces[piece]})` : sound.name;
}

function Part({
  id,
  place,
  part,
  name,
  placed,
  rateHz,
  isLast,
  onGap,
  onMove,
  onRemove,
}: {
  id: number;
  /** From 1. */
  place: number;
  part: JoinPart;
  name: string;
  placed: PlannedJoin['placed'][number] | null;
  rateHz: number;
  isLast: boolean;
  onGap: (gapSeconds: number) => void;
  onMove: (by: -1 | 1) => void;
  onRemove: () => void;
}) {
  return (
    <SortableLine
      id={id}
      label={`${place}. ${name}`}
      className="flex flex-wrap items-center gap-x-3 gap-y-1 py-1.5"
    >
      <Grip label={`Move part ${place}`} />
      <span className="text-soft w-6 text-right">{place}</span>
      <span className="min-w-40 flex-1">
        <MiddleCut text={name} className="font-semibold" />
        {placed && placed.conversions.length > 0 && (
          <span className="text-soft block text-xs">{placed.conversions.join(' · ')}</span>
        )}
      </span>
      <span className="w-40 text-right">
        {placed && (
          <>
            {formatTime(placed.startFrame / rateHz)}
            <span className="text-soft"> + {formatTime(placed.frames / rateHz)}</span>
            <span className="text-soft block text-xs">{plural(placed.frames, 'frame')}</span>
          </>
        )}
      </span>
      <span className="w-44">
        {!isLast && (
          <GapField
            label={`Gap behind part ${place}`}
            seconds={part.gapSeconds}
            rateHz={rateHz}
            onChange={onGap}
          />
        )}
      </span>
      <span className="flex">
        <Tool label={`Part ${place} earlier`} disabled={place === 1} onClick={() => onMove(-1)}>
          <ArrowUp size={14} />
        </Tool>
        <Tool label={`Part ${place} later`} disabled={isLast} onClick={() => onMove(1)}>
          <ArrowDown size={14} />
        </Tool>
        <Tool label={`Take part ${place} out`} onClick={onRemove}>
          <Trash2 size={14} />
        </Tool>
      </span>
    </SortableLine>
  );
}
