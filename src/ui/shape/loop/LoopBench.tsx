'use client';

import { wayBackFrames } from '@/core/dsp/loop';
import type { Loop } from '@/core/marks';
import { marksAfter } from '@/core/recipe/recipe';
import { useDesk } from '../desk';
import { newStep, useWorkbench } from '../workbench';
import { formatTime } from '../../shared/format';
import { Bars } from './Bars';
import { Edges } from './Edges';
import { HandOver } from './HandOver';
import { LoopKeys } from './LoopKeys';
import { useLooping } from './looping';
import { Make } from './Make';
import { Seam } from './Seam';

/** Everything about the loop of a sound: where it is, how its seam looks and sounds, how it is made. */
export function LoopBench() {
  const { looping } = useLooping();
  if (!looping) return <Begin />;
  return (
    <div className="mt-1.5 space-y-2">
      <LoopKeys />
      <Edges looping={looping} />
      <Bars looping={looping} />
      <Make looping={looping} />
      {looping.made && (
        <div className="border-base-300 border-t pt-2">
          <Seam looping={looping} />
        </div>
      )}
      <HandOver looping={looping} />
    </div>
  );
}

/** There is no loop yet: what it could be. */
function Begin() {
  const { sound, source, result, recipe, problem, save, markInResult } = useWorkbench();
  const { begin } = useLooping();
  const mark = useDesk((desk) => desk.mark);
  const own = sound.facts && marksAfter(recipe, source, sound.facts).loop;
  const isOff = recipe.steps.some(({ kind, on }) => kind === 'loop' && !on);
  const whole = { startFrame: 0, endFrame: result.frames };
  if (problem) {
    return (
      <p className="text-error mt-3" role="alert">
        {problem.message} {problem.hint}
      </p>
    );
  }
  const asTheFileSays = (loop: Loop) => {
    if (!loop.isBackAndForth) return begin(loop);
    const { startFrame, endFrame } = loop;
    const end = endFrame + wayBackFrames(loop);
    const steps = [
      newStep('unroll', result, { startFrame, endFrame }),
      newStep('loop', result, { startFrame, endFrame: end }),
    ];
    save({ ...recipe, steps: [...recipe.steps, ...steps] });
  };
  return (
    <section aria-label="No loop yet" className="mt-3">
      <h2 className="font-serif text-xl">No loop yet</h2>
      <p className="text-soft mt-1 max-w-2xl">
        Say what is to repeat: then its seam can be looked at, heard and made. It is a step of the
        recipe like any other.
        {isOff && ' The recipe has a loop step that is switched off: switch it on to work on it.'}
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        {mark && (
          <button
            className="btn btn-primary btn-sm"
            onClick={() => {
              const span = markInResult();
              if (span) begin(span);
            }}
          >
            Loop the marked part
          </button>
        )}
        {own && (
          <button className="btn btn-paper btn-sm" onClick={() => asTheFileSays(own)}>
            {own.isBackAndForth
              ? 'Unroll what the file loops back and forth'
              : 'Loop as the file says'}{' '}
            ({formatTime(own.startFrame / result.rateHz)} to{' '}
            {formatTime(own.endFrame / result.rateHz)})
          </button>
        )}
        <button className="btn btn-paper btn-sm" onClick={() => begin(whole)}>
          Loop all of it
        </button>
        {!mark && <span className="text-soft self-center">Or drag over the waveform first.</span>}
      </div>
    </section>
  );
}
