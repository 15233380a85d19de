import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { toast } from 'sonner';
import { BijouError } from '@/core/errors';
import { PIECE_PATTERN, pieceNames } from '@/core/loop/names';
import { formatTime, plural } from '../../shared/format';
import { call } from '../../shared/api';
import { MiddleCut } from '../../shared/MiddleCut';
import { Popover } from '../../shared/Popover';
import { useProject } from '../../shared/project';
import { useAction } from '../../shared/useAction';
import type { LoopPiece } from '@/core/loop/parts';
import type { Sound } from '@/wire';
import { useWorkbench } from '../workbench';
import { HandoverSheet } from './HandoverSheet';
import type { Looping } from './looping';

/** Taking the loop apart for an engine, and handing it over to others. */
export function HandOver({ looping }: { looping: Looping }) {
  const [isOpen, setOpen] = useState(false);
  const { problem } = useWorkbench();
  const canMake = looping.made !== null && !problem;
  return (
    <section
      aria-label="Hand the loop over"
      className="border-base-300 flex flex-wrap items-center gap-2 border-t pt-2"
    >
      <Popover
        label="Pieces as sounds"
        title="Intro, first pass and repeat pass as sounds of their own, which follow when this one changes"
        face="Pieces as sounds…"
        disabled={!canMake}
      >
        {(close) => <Pieces looping={looping} onDone={close} />}
      </Popover>
      <button
        className="btn btn-paper btn-sm"
        disabled={!canMake}
        title="The pieces as WAV, a copy to listen to, and a sheet that says how they follow one another"
        onClick={() => setOpen(true)}
      >
        Handover set…
      </button>
      <span className="text-soft text-xs">
        For engines that play the pieces one behind the other, and for whoever is to hear the loop.
      </span>
      <HandoverSheet isOpen={isOpen} onClose={() => setOpen(false)} />
    </section>
  );
}

/** The pieces with the names and lengths that they would have. */
function Pieces({ looping, onDone }: { looping: Looping; onDone: () => void }) {
  const { sound, result } = useWorkbench();
  const { project } = useProject();
  const router = useRouter();
  const { run, busy } = useAction();
  const [pattern, setPattern] = useState(PIECE_PATTERN);
  const parts = looping.made?.parts;
  if (!parts) return null;
  const { rateHz } = looping.before.shape;
  const named = namesOf(pattern, sound);
  const pieces = (['intro', 'first', 'repeat'] as const).flatMap((piece) => {
    const span = parts[piece];
    return span ? [{ piece, frames: span.endFrame - span.startFrame }] : [];
  });
  return (
    <form
      className="w-96 max-w-full"
      onSubmit={(event) => {
        event.preventDefault();
        void run(async () => {
          const made = await call<Sound[]>(`sounds/${sound.id}/pieces`, 'POST', { pattern });
          toast(`Made ${made.map(({ name }) => `“${name}”`).join(', ')}.`);
          router.push(`/p/${project.id}/collect`);
        }).then((isDone) => isDone && onDone());
      }}
    >
      <label>
        <span className="text-soft block text-xs font-semibold">Names</span>
        <input
          className="input input-sm w-full"
          value={pattern}
          maxLength={200}
          title="{part} is intro, first or repeat; also {name} {group} {n} {rate} {channels}"
          onChange={(event) => setPattern(event.target.value)}
        />
      </label>
      {named.problem && <p className="text-error mt-1 text-xs">{named.problem}</p>}
      <ul className="mt-2">
        {pieces.map(({ piece, frames }) => (
          <li key={piece} className="flex justify-between gap-3">
            <MiddleCut text={named.of?.(piece) ?? '?'} className="font-semibold" />
            <span className="text-soft whitespace-nowrap">
              {formatTime(frames / rateHz)} · {plural(frames, 'frame')}
            </span>
          </li>
        ))}
      </ul>
      <p className="text-soft my-2 text-xs">
        They follow when “{sound.name}” changes. Lengths are those behind the loop step
        {result.rateHz === rateHz ? '' : '; later steps change them'}.
      </p>
      <button className="btn btn-primary btn-sm" disabled={busy || named.of === null}>
        Make {plural(pieces.length, 'sound')}
      </button>
    </form>
  );
}

function namesOf(pattern: string, sound: Sound) {
  try {
    const of: ((piece: LoopPiece) => string) | null = pieceNames(pattern, sound);
    of('first');
    return { of, problem: null };
  } catch (error) {
    return { of: null, problem: error instanceof BijouError ? error.message : String(error) };
  }
}
