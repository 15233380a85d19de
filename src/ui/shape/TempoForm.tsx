import { useState } from 'react';
import { tempoLimits } from '@/core/tempo';
import type { Sound } from '@/wire';
import { useEdits } from '../shared/useEdits';
import { number } from '../shared/format';
import { Popover } from '../shared/Popover';
import { useHabits } from './desk';

/** Bars and beats: set here, shown by the ruler, and typed as b2.3. */
export function TempoForm({ sound }: { sound: Sound }) {
  const { tempo } = sound;
  const face = tempo ? `${number(tempo.bpm, 2)} BPM` : 'Tempo…';
  return (
    <Popover label="Tempo" face={face} className="btn btn-ghost btn-xs" title="Tempo of this sound">
      {(close) => <Form sound={sound} onDone={close} />}
    </Popover>
  );
}

function Form({ sound, onDone }: { sound: Sound; onDone: () => void }) {
  const { edit, busy } = useEdits();
  const [bpm, setBpm] = useState(String(sound.tempo?.bpm ?? 120));
  const [beats, setBeats] = useState(String(sound.tempo?.beatsPerBar ?? 4));
  const set = async (tempo: Sound['tempo']) => {
    if (!(await edit([{ soundId: sound.id, tempo }]))) return;
    useHabits.setState({ ruler: tempo ? 'bars' : 'time' });
    onDone();
  };
  const { bpm: b, beatsPerBar: p } = tempoLimits;
  const isGood = Number(bpm) >= b.min && Number(bpm) <= b.max;
  const isWhole =
    Number.isInteger(Number(beats)) && Number(beats) >= p.min && Number(beats) <= p.max;
  return (
    <form
      className="grid grid-cols-[auto_6rem] items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (isGood && isWhole) void set({ bpm: Number(bpm), beatsPerBar: Number(beats) });
      }}
    >
      <label htmlFor="tempo-bpm">Beats a minute</label>
      <input
        id="tempo-bpm"
        className="input input-sm"
        inputMode="decimal"
        value={bpm}
        aria-invalid={!isGood}
        onChange={(event) => setBpm(event.target.value)}
      />
      <label htmlFor="tempo-beats">Beats a bar</label>
      <input
        id="tempo-beats"
        className="input input-sm"
        inputMode="numeric"
        value={beats}
        aria-invalid={!isWhole}
        onChange={(event) => setBeats(event.target.value)}
      />
      {!(isGood && isWhole) && (
        <p className="text-error col-span-2 text-xs">
          {b.min} to {b.max} beats a minute, {p.min} to {p.max} whole beats a bar.
        </p>
      )}
      <div className="col-span-2 flex gap-2">
        <button className="btn btn-primary btn-sm" disabled={busy}>
          Set
        </button>
        {sound.tempo && (
          <button type="button" className="btn btn-paper btn-sm" onClick={() => void set(null)}>
            No tempo
          </button>
        )}
      </div>
      <p className="text-soft col-span-2 text-xs">The first beat lies at the start of the sound.</p>
    </form>
  );
}
