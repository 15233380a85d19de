'use client';

import {
  ChevronLeft,
  ChevronRight,
  ChevronsLeft,
  ChevronsRight,
  Play,
  SkipBack,
  SkipForward,
} from 'lucide-react';
import { formatTime } from '../shared/format';
import { Tool } from '../shared/Tool';
import { useDesk, type Span } from './desk';
import { TimeField } from './TimeField';
import { useMark } from './useMark';
import { useWorkbench } from './workbench';

/** The marked part in numbers: typed, nudged, found, heard. */
export function MarkBar() {
  const { sound, shown } = useWorkbench();
  const { frames, rateHz } = shown.shape;
  const mark = useDesk((desk) => desk.mark);
  const { set, play, hearEdge, toSilence, nudge: move } = useMark();
  const span = mark ?? { start: 0, end: frames };
  const ends = (start: number, end: number) => set({ start, end });
  const tempo = sound.tempo;
  return (
    <section aria-label="Marked part" className="flex flex-wrap items-start gap-x-3 gap-y-1">
      <div className="flex items-start gap-0.5">
        <TimeField
          label="Start"
          frame={span.start}
          rateHz={rateHz}
          tempo={tempo}
          problem={(frame) => (frame < span.end ? null : 'The start must lie before the end.')}
          onChange={(start) => ends(start, span.end)}
          span={{
            problem: (start, end) => endProblem(end, { ...span, start }, frames, rateHz),
            onChange: ends,
          }}
          onEnter={toPicture}
        />
        <Edge edge="start" move={move} hear={hearEdge} keys={['Q', 'W', 'S']} />
      </div>
      <div className="flex items-start gap-0.5">
        <TimeField
          label="End"
          frame={span.end}
          rateHz={rateHz}
          tempo={tempo}
          problem={(frame) => endProblem(frame, span, frames, rateHz)}
          onChange={(end) => ends(span.start, end)}
          onEnter={toPicture}
        />
        <Edge edge="end" move={move} hear={hearEdge} keys={['O', 'P', 'D']} />
      </div>
      <TimeField
        label="Length"
        isLength
        frame={span.end - span.start}
        rateHz={rateHz}
        problem={(length) =>
          length === 0
            ? 'A length of zero leaves nothing.'
            : endProblem(span.start + length, span, frames, rateHz)
        }
        onChange={(length) => ends(span.start, span.start + length)}
        onEnter={toPicture}
      />
      <div className="flex flex-wrap items-center gap-1 pt-4.5">
        <button
          className="btn btn-primary btn-sm"
          title="Play the marked part, once or around (Shift+Space)"
          onClick={play}
        >
          <Play size={14} fill="currentColor" /> Play the marked part
        </button>
        <Tool label="To the silence edge before (,)" onClick={() => toSilence(-1)}>
          <SkipBack size={15} />
        </Tool>
        <Tool label="To the next silence edge (.)" onClick={() => toSilence(1)}>
          <SkipForward size={15} />
        </Tool>
      </div>
    </section>
  );
}

/** From a field back to where keys are those of the workbench. */
function toPicture(): void {
  document.querySelector<HTMLElement>('main')?.focus({ preventScroll: true });
}

/** Nudging an end of the mark, and hearing what lies on both its sides. */
function Edge({
  edge,
  move,
  hear,
  keys: [earlier, later, around],
}: {
  edge: keyof Span;
  move: (edge: keyof Span, direction: -1 | 1) => void;
  hear: (edge: keyof Span) => void;
  keys: readonly [string, string, string];
}) {
  return (
    <div className="flex items-center pt-5">
      <Tool
        isSmall
        label={`The ${edge} a little earlier (${earlier})`}
        onClick={() => move(edge, -1)}
      >
        <ChevronLeft size={15} />
      </Tool>
      <Tool isSmall label={`The ${edge} a little later (${later})`} onClick={() => move(edge, 1)}>
        <ChevronRight size={15} />
      </Tool>
      <Tool
        isSmall
        label={`Hear two seconds before and behind the ${edge} (${around})`}
        onClick={() => hear(edge)}
      >
        <ChevronsLeft size={13} className="-mr-1" />
        <ChevronsRight size={13} />
      </Tool>
    </div>
  );
}

function endProblem(end: number, span: Span, frames: number, rateHz: number): string | null {
  if (end <= span.start) return 'The end must lie behind the start.';
  return end <= frames ? null : `The sound ends at ${formatTime(frames / rateHz)}.`;
}
