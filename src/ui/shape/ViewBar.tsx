'use client';

import { AudioLines, Magnet, Maximize2, ScanSearch, ZoomIn, ZoomOut } from 'lucide-react';
import { count, formatTime, plural } from '../shared/format';
import { OneOf, Tool } from '../shared/Tool';
import type { View } from '../waveform/tiles';
import { rulers, useDesk, useHabits, type Shown } from './desk';
import { TempoForm } from './TempoForm';
import { useView } from './useView';
import { useWorkbench } from './workbench';

const forms: Record<Exclude<Shown, 'loop'>, string> = { source: 'Source', shaped: 'Shaped' };

/** What the picture shows, and how. */
export function ViewBar() {
  const { sound, recipe, problem } = useWorkbench();
  const form = useDesk((desk) => desk.shown);
  const mark = useDesk((desk) => desk.mark);
  const { scale, ruler, isSnapping, hasSpectrogram } = useHabits();
  const { closer, whole, toMark, show } = useView();
  const canShape = recipe.steps.length > 0 && !problem;
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1.5">
      {form !== 'loop' && (
        <OneOf
          label="Show"
          title={
            canShape
              ? 'The sound as it came, or as its recipe makes it (T)'
              : 'The sound as it came. What a recipe makes of it can be shown when it has one that can be followed.'
          }
          options={forms}
          disabled={canShape ? [] : ['shaped']}
          value={canShape ? form : 'source'}
          onChange={show}
        />
      )}
      <div className="flex">
        <Tool label="Closer (+)" onClick={() => closer(0.5)}>
          <ZoomIn size={16} />
        </Tool>
        <Tool label="Farther (−)" onClick={() => closer(2)}>
          <ZoomOut size={16} />
        </Tool>
        <Tool label="Whole sound (0)" onClick={whole}>
          <Maximize2 size={15} />
        </Tool>
        <Tool label="The marked part (9)" onClick={toMark} disabled={!mark}>
          <ScanSearch size={16} />
        </Tool>
      </div>
      <OneOf
        label="Heights"
        title="Heights in proportion to the samples, or by their level (Y)"
        options={{ linear: 'Linear', db: 'dB' }}
        value={scale}
        onChange={(next) => useHabits.setState({ scale: next })}
      />
      <div className="flex items-center gap-1">
        <OneOf
          label="Ruler"
          title="What the ruler counts (R)"
          options={rulers}
          value={ruler}
          onChange={(next) => useHabits.setState({ ruler: next })}
        />
        <TempoForm sound={sound} />
      </div>
      <div className="flex">
        <Tool
          label="Spectrogram (G)"
          pressed={hasSpectrogram}
          onClick={() => useHabits.setState({ hasSpectrogram: !hasSpectrogram })}
        >
          <AudioLines size={16} />
        </Tool>
        <Tool
          label="Ends of the mark go to zero crossings (C)"
          pressed={isSnapping}
          onClick={() => useHabits.setState({ isSnapping: !isSnapping })}
        >
          <Magnet size={16} />
        </Tool>
      </div>
    </div>
  );
}

/** What the picture shows, in numbers. */
export function ViewText() {
  const { shown } = useWorkbench();
  const view = useDesk((desk) => desk.view);
  return <p className="text-soft text-right text-xs">{viewText(view, shown.shape.rateHz)}</p>;
}

/** What the picture shows: times, or frames where times would all look alike. */
function viewText({ start, end }: View, rateHz: number): string {
  const place = (frame: number) =>
    end - start < rateHz / 10 ? `frame ${count(frame)}` : formatTime(frame / rateHz);
  return `showing ${place(start)} to ${place(end)}, ${plural(end - start, 'frame')}`;
}
