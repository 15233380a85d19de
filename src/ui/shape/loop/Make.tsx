import { crossfadeCurves, type CrossfadeCurve } from '@/core/dsp/loop';
import {
  addedFrames,
  mostCrossfade,
  type LoopParams,
  type LoopSeam,
} from '@/core/recipe/steps/loop';
import { AmountField } from '../../shared/AmountField';
import { formatTime, plural, size } from '../../shared/format';
import { TimeField } from '../TimeField';
import type { Looping } from './looping';

const ways: Record<LoopSeam, { name: string; key: string; says: string }> = {
  cut: { name: 'Cut hard', key: 'X', says: 'At the exact frame; no sample changes' },
  crossfade: {
    name: 'Crossfade',
    key: 'F',
    says: 'For beds: the end fades into what leads up to the start',
  },
  tail: {
    name: 'Wrap the tail',
    key: 'B',
    says: 'For music: what rings behind the end lies under the start of every repeat',
  },
};

/** How the end is made to go on in the start, with what that costs. */
export function Make({ looping }: { looping: Looping }) {
  const { params, problem, change } = looping;
  const { seam = 'cut' } = params;
  return (
    <section
      aria-label="Make the seam"
      className="border-base-300 flex flex-wrap items-end gap-x-4 gap-y-1.5 border-t pt-2"
    >
      <div>
        <span className="text-soft block text-xs font-semibold">Where the end meets the start</span>
        <div role="radiogroup" aria-label="Seam" className="flex flex-wrap gap-1.5">
          {(Object.keys(ways) as LoopSeam[]).map((way) => (
            <button
              key={way}
              role="radio"
              aria-checked={way === seam}
              aria-label={ways[way].name}
              className={`btn btn-sm ${way === seam ? 'btn-primary' : 'btn-paper'}`}
              title={`${ways[way].name}: ${ways[way].says} (${ways[way].key})`}
              onClick={() =>
                change({ seam: way, ...(way === 'tail' && withTail(looping)) }, 'seam')
              }
            >
              {ways[way].name}
            </button>
          ))}
        </div>
      </div>
      {seam === 'crossfade' && <Crossfade looping={looping} />}
      {seam === 'tail' && (
        <TailLevel db={params.tailDb ?? 0} onChange={(tailDb) => change({ tailDb }, 'tailDb')} />
      )}
      {problem ? (
        <p className="text-error w-full" role="alert">
          {problem.message} {problem.hint}
        </p>
      ) : (
        <Cost looping={looping} says={ways[seam].says} />
      )}
    </section>
  );
}

/** A tail is needed for it: what there is, as long as the loop at most. */
function withTail({ params, before }: Looping): Partial<LoopParams> {
  const { startFrame, endFrame, tailFrames } = params;
  if (tailFrames > 0) return {};
  return { tailFrames: Math.min(endFrame - startFrame, before.shape.frames - endFrame) };
}

function Crossfade({ looping: { params, before, change } }: { looping: Looping }) {
  const { rateHz } = before.shape;
  const { crossfadeFrames = 0, curve = 'equal-power', endFrame } = params;
  const most = Math.floor(endFrame / 2);
  return (
    <>
      <TimeField
        label="Length of the crossfade"
        isLength
        className="w-40"
        frame={crossfadeFrames}
        rateHz={rateHz}
        problem={(frames) =>
          frames > most ? `At most ${formatTime(most / rateHz)}: half of what there is.` : null
        }
        onChange={(frames) => change({ crossfadeFrames: frames }, 'crossfadeFrames')}
      />
      <label>
        <span className="text-soft block text-xs font-semibold">Curve</span>
        <select
          className="select select-sm w-auto"
          value={curve}
          title="Equal power for unlike sides, linear for alike ones; by correlation chooses between them"
          onChange={(event) => change({ curve: event.target.value as CrossfadeCurve }, 'curve')}
        >
          {Object.entries(crossfadeCurves).map(([key, { name }]) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
      </label>
      {crossfadeFrames > 0 && crossfadeFrames === mostCrossfade(params) && (
        <p className="text-soft self-center text-xs">
          As long as can be: for a longer one the loop begins later.
        </p>
      )}
    </>
  );
}

function TailLevel({ db, onChange }: { db: number; onChange: (db: number) => void }) {
  return (
    <label>
      <span className="text-soft block text-xs font-semibold">Tail at</span>
      <AmountField
        label="Level of the tail in dB"
        value={db}
        min={-60}
        max={12}
        onChange={onChange}
      />{' '}
      dB
    </label>
  );
}

/** What is done, the new length, and what the repeat that carries its tail takes. */
function Cost({ looping: { params, before }, says }: { looping: Looping; says: string }) {
  const { rateHz, frames, channelCount } = before.shape;
  const added = addedFrames(params);
  const length = params.endFrame - params.startFrame;
  return (
    <p className="text-soft min-w-60 flex-1 text-xs" data-testid="loop-cost">
      {says}. The loop has {plural(length, 'frame')}, {formatTime(length / rateHz)}.{' '}
      {added > 0 && (
        <>
          In one file the repeat lies behind the first pass: {formatTime(frames / rateHz)} →{' '}
          <strong>{formatTime((frames + added) / rateHz)}</strong>, {size(added * channelCount * 2)}{' '}
          more at 16 bits.
        </>
      )}
    </p>
  );
}
