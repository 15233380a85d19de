import { ChevronLeft, ChevronRight } from 'lucide-react';
import type { LoopParams } from '@/core/recipe/steps/loop';
import { count, formatTime, plural } from '../../shared/format';
import { Tool } from '../../shared/Tool';
import { TimeField } from '../TimeField';
import { useMark } from '../useMark';
import { useWorkbench } from '../workbench';
import type { Looping } from './looping';

/** Where the loop begins and ends, and the parts around it, in numbers. */
export function Edges({ looping }: { looping: Looping }) {
  const { sound } = useWorkbench();
  const { params, before, change } = looping;
  const { frames, rateHz } = before.shape;
  const { startFrame, endFrame, introFrames, tailFrames } = params;
  const { set, nudge } = useMark();
  const put = (start: number, end: number) => set({ start, end });
  const tempo = sound.tempo;
  const room = frames - endFrame;
  return (
    <section aria-label="Loop" className="flex flex-wrap items-start gap-x-3 gap-y-1">
      <div className="flex items-start gap-0.5">
        <TimeField
          label="Loop start"
          frame={startFrame}
          rateHz={rateHz}
          tempo={tempo}
          problem={(frame) => (frame < endFrame ? null : 'The start must lie before the end.')}
          onChange={(start) => put(start, endFrame)}
        />
        <Nudges edge="start" nudge={nudge} keys={['Q', 'W']} />
      </div>
      <div className="flex items-start gap-0.5">
        <TimeField
          label="Loop end"
          className="w-34"
          frame={endFrame}
          rateHz={rateHz}
          tempo={tempo}
          problem={(frame) => endProblem(frame, params, frames, rateHz)}
          onChange={(end) => put(startFrame, end)}
        />
        <Nudges edge="end" nudge={nudge} keys={['O', 'P']} />
      </div>
      <TimeField
        label="Loop length"
        isLength
        frame={endFrame - startFrame}
        rateHz={rateHz}
        problem={(length) => endProblem(startFrame + length, params, frames, rateHz)}
        onChange={(length) => put(startFrame, startFrame + length)}
      />
      <Part
        label="Intro"
        frames={introFrames}
        room={startFrame}
        rateHz={rateHz}
        nothing="Nothing lies in front of the loop."
        onChange={(length) => change({ introFrames: length }, 'introFrames')}
      />
      <Part
        label="Tail"
        frames={tailFrames}
        room={room}
        rateHz={rateHz}
        nothing="Nothing lies behind the loop."
        onChange={(length) => change({ tailFrames: length }, 'tailFrames')}
      />
    </section>
  );
}

/** A part beside the loop, by its length; one press takes all there is. */
function Part({
  label,
  frames,
  room,
  rateHz,
  nothing,
  onChange,
}: {
  label: string;
  frames: number;
  /** Most frames that it may have. */
  room: number;
  rateHz: number;
  nothing: string;
  onChange: (frames: number) => void;
}) {
  return (
    <div className="relative">
      <TimeField
        label={label}
        isLength
        frame={frames}
        rateHz={rateHz}
        className="w-28"
        problem={(length) =>
          length <= room ? null : room === 0 ? nothing : `At most ${formatTime(room / rateHz)}.`
        }
        onChange={onChange}
      />
      {frames !== room && room > 0 && (
        <button
          className="link link-primary absolute top-0.5 right-0 text-xs"
          aria-label={`${label}: all ${count(room)} frames that there are`}
          title={`All ${count(room)} frames that there are`}
          onClick={() => onChange(room)}
        >
          all
        </button>
      )}
    </div>
  );
}

function Nudges({
  edge,
  nudge,
  keys: [earlier, later],
}: {
  edge: 'start' | 'end';
  nudge: (edge: 'start' | 'end', direction: -1 | 1) => void;
  keys: readonly [string, string];
}) {
  return (
    <div className="flex items-center pt-5">
      <Tool
        isSmall
        label={`The ${edge} a little earlier (${earlier})`}
        onClick={() => nudge(edge, -1)}
      >
        <ChevronLeft size={15} />
      </Tool>
      <Tool isSmall label={`The ${edge} a little later (${later})`} onClick={() => nudge(edge, 1)}>
        <ChevronRight size={15} />
      </Tool>
    </div>
  );
}

function endProblem(
  end: number,
  { startFrame }: LoopParams,
  frames: number,
  rateHz: number,
): string | null {
  if (end <= startFrame) return 'The end must lie behind the start.';
  if (end > frames) return `The sound ends at ${formatTime(frames / rateHz)}.`;
  return end - startFrame < 32 ? `Only ${plural(end - startFrame, 'frame')}: at least 32.` : null;
}
