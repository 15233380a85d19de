import { useState } from 'react';
import type { ProposedTempo } from '@/core/measure/tempo';
import { barsFrom, framesPerBeat, tempoLimits, type Tempo } from '@/core/tempo';
import { AmountField } from '../../shared/AmountField';
import { count, number } from '../../shared/format';
import { useEdits } from '../../shared/useEdits';
import { sourceOf, useAnswer } from '../ask';
import { useDesk, useHabits } from '../desk';
import { useWorkbench } from '../workbench';
import type { Looping } from './looping';

/** The loop by so many bars at a tempo, with what is over; and the tempo that can be heard. */
export function Bars({ looping }: { looping: Looping }) {
  const { sound } = useWorkbench();
  const { edit, busy } = useEdits();
  const { tempo } = sound;
  const setTempo = (next: Tempo) =>
    void edit([{ soundId: sound.id, tempo: next }]).then((isDone) => {
      if (isDone) useHabits.setState({ ruler: 'bars' });
    });
  const bpm = tempo?.bpm ?? 120;
  const beats = tempo?.beatsPerBar ?? 4;
  return (
    <section aria-label="By tempo" className="flex flex-wrap items-center gap-x-2 gap-y-1">
      {tempo && <BarCount looping={looping} tempo={tempo} />}
      <AmountField
        label="Beats a bar"
        value={beats}
        {...tempoLimits.beatsPerBar}
        isWhole
        className="w-12"
        onChange={(beatsPerBar) => setTempo({ bpm, beatsPerBar })}
      />
      <span>beats a bar at</span>
      <AmountField
        label="Beats a minute"
        value={bpm}
        {...tempoLimits.bpm}
        className="w-20"
        onChange={(next) => setTempo({ bpm: next, beatsPerBar: beats })}
      />
      <span>BPM</span>
      {!tempo && (
        <button
          className="btn btn-paper btn-xs"
          disabled={busy}
          title="Count bars at this tempo"
          onClick={() => setTempo({ bpm, beatsPerBar: beats })}
        >
          Set
        </button>
      )}
      {tempo ? <Remainder looping={looping} tempo={tempo} /> : null}
      <Proposal onUse={setTempo} tempo={tempo} />
    </section>
  );
}

/** How many bars the loop has; typed, it gets so many. */
function BarCount({ looping, tempo }: { looping: Looping; tempo: Tempo }) {
  const { params, before } = looping;
  const { startFrame, endFrame } = params;
  const { rateHz, frames } = before.shape;
  const bar = framesPerBeat(tempo, rateHz) * tempo.beatsPerBar;
  const bars = (endFrame - startFrame) / bar;
  const most = Math.floor((frames - startFrame) / bar + 1e-6);
  return (
    <>
      <AmountField
        label="Bars of the loop"
        value={Math.round(bars * 100) / 100}
        min={0.25}
        max={Math.max(0.25, most)}
        className="w-16"
        onChange={(wanted) => {
          const { endFrame: end } = barsFrom(startFrame, wanted, tempo, rateHz);
          useDesk.setState({ mark: { start: startFrame, end: Math.min(frames, end) } });
        }}
      />
      <span>bars of</span>
    </>
  );
}

/** What the loop is longer or shorter than whole bars. */
function Remainder({ looping, tempo }: { looping: Looping; tempo: Tempo }) {
  const { params, before } = looping;
  const { startFrame, endFrame } = params;
  const { rateHz } = before.shape;
  const bar = framesPerBeat(tempo, rateHz) * tempo.beatsPerBar;
  const bars = Math.max(1, Math.round((endFrame - startFrame) / bar));
  const whole = barsFrom(startFrame, bars, tempo, rateHz);
  const off = endFrame - whole.endFrame;
  if (off !== 0) {
    return (
      <span className="text-soft text-xs">
        {count(Math.abs(off))} frames {off > 0 ? 'more' : 'fewer'} than {bars} bars{' '}
        <button
          className="link link-primary"
          onClick={() => useDesk.setState({ mark: { start: startFrame, end: whole.endFrame } })}
        >
          make it {bars}
        </button>
      </span>
    );
  }
  const { remainderFrames: over } = whole;
  return (
    <span className="text-soft text-xs" data-testid="remainder">
      {Math.abs(over) < 0.0005
        ? 'exactly'
        : `${number(Math.abs(over), 3)} of a frame ${over > 0 ? 'is over' : 'is missing'}; the next bar carries it`}
    </span>
  );
}

/** The tempo that can be heard in the sound, with how sure that is. */
function Proposal({ tempo, onUse }: { tempo: Tempo | null; onUse: (tempo: Tempo) => void }) {
  const { sound } = useWorkbench();
  const [isWanted, setWanted] = useState(false);
  const { data, isFetching } = useAnswer<ProposedTempo | null>(
    sourceOf(sound),
    'tempo',
    {},
    isWanted,
  );
  if (!isWanted) {
    return (
      <button
        className="btn btn-ghost btn-xs"
        title="Listens for the tempo of this sound"
        onClick={() => setWanted(true)}
      >
        Find the tempo
      </button>
    );
  }
  if (isFetching || data === undefined)
    return <span className="text-soft text-xs">listening …</span>;
  if (data === null) return <span className="text-soft text-xs">No tempo can be heard in it.</span>;
  const { bpm, beatsPerBar, confidence } = data;
  const isSet = tempo?.bpm === bpm && tempo.beatsPerBar === beatsPerBar;
  return (
    <span className="text-xs" role="status">
      Heard: <strong>{number(bpm, 2)} BPM</strong>, {beatsPerBar} beats a bar, {surety(confidence)}{' '}
      ({number(confidence * 100, 0)} %).{' '}
      {!isSet && (
        <button className="btn btn-paper btn-xs" onClick={() => onUse({ bpm, beatsPerBar })}>
          Use it
        </button>
      )}
    </span>
  );
}

function surety(confidence: number): string {
  if (confidence >= 0.5) return 'quite sure';
  return confidence >= 0.25 ? 'likely' : 'hardly more than a guess';
}
