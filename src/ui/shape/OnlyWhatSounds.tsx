import { useState } from 'react';
import { onlyWhatSounds } from '@/core/measure/sounding';
import { formatTime, number, plural } from '../shared/format';
import { Popover } from '../shared/Popover';
import { QUIET_DB, soundingQuestion, useAnswer, type Sounding } from './ask';
import { useDesk } from './desk';
import { useWorkbench } from './workbench';

const AIR_MS = 20;

/** Proposes a head and a tail from the measured silence. */
export function OnlyWhatSounds() {
  return (
    <Popover
      label="Only what sounds"
      face="Only what sounds…"
      title="Mark the sound without the silence in front and behind (N)"
      className="btn btn-paper btn-sm"
    >
      {(close) => <Proposal onDone={close} />}
    </Popover>
  );
}

function Proposal({ onDone }: { onDone: () => void }) {
  const { shown, keep } = useWorkbench();
  const { frames, rateHz } = shown.shape;
  const [thresholdDb, setThreshold] = useState(QUIET_DB);
  const [airMs, setAir] = useState(AIR_MS);
  const { data, problem, isFetching } = useAnswer<Sounding>(
    shown.asked,
    'sounding',
    soundingQuestion(thresholdDb),
  );
  const found = data && onlyWhatSounds(data, Math.round((airMs / 1_000) * rateHz), frames);
  const span = found ? { start: found.startFrame, end: found.endFrame } : null;
  const time = (length: number) => formatTime(length / rateHz);
  return (
    <div className="w-72 space-y-2">
      <label className="block">
        Silence is below <strong>{number(thresholdDb)} dBFS</strong>
        <input
          type="range"
          className="range range-xs w-full"
          min={-100}
          max={-20}
          step={1}
          value={thresholdDb}
          onChange={(event) => setThreshold(Number(event.target.value))}
        />
      </label>
      <label className="flex items-center gap-2">
        Air left on both sides
        <input
          type="number"
          className="input input-xs w-20"
          min={0}
          max={5_000}
          value={airMs}
          onChange={(event) => setAir(Math.max(0, Math.min(5_000, Number(event.target.value))))}
        />
        ms
      </label>
      <p role="status" className="min-h-10">
        {problem && problem.message}
        {!problem && isFetching && 'Listening for silence …'}
        {!problem && data && !span && 'Nothing is louder than that: there is no sound to keep.'}
        {span && (
          <>
            {time(span.start)} to {time(span.end)}, {plural(span.end - span.start, 'frame')}:{' '}
            {time(span.start)} of silence in front and {time(frames - span.end)} behind go.
          </>
        )}
      </p>
      <div className="flex gap-2">
        <button
          className="btn btn-primary btn-sm"
          disabled={!span}
          onClick={() => {
            useDesk.setState({ mark: span });
            if (span) keep(span);
            onDone();
          }}
        >
          Keep it
        </button>
        <button
          className="btn btn-paper btn-sm"
          disabled={!span}
          onClick={() => {
            useDesk.setState({ mark: span });
            onDone();
          }}
        >
          Mark it
        </button>
      </div>
    </div>
  );
}
