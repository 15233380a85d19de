import { crossfadeCurves, type CrossfadeCurve } from '@/core/dsp/loop';
import type { LoopForMany } from '@/core/loop/forMany';
import type { LoopSeam } from '@/core/recipe/steps/loop';
import type { Sound } from '@/wire';
import { AmountField } from '../../shared/AmountField';
import { TimeField } from '../TimeField';
import { shapeOf } from '../workbench';

const wheres = {
  own: 'the loop that each has, else all of it',
  whole: 'all of each sound',
  points: 'the same points in all (aligned stems)',
} as const;

type Where = keyof typeof wheres;

const seams: Record<LoopSeam | 'leave', string> = {
  leave: 'leave it as it is',
  cut: 'cut hard, at the exact frame',
  crossfade: 'crossfade',
  tail: 'wrap the tail',
};

/** What is to become of the loops of all chosen sounds. */
export function Wish({
  wish,
  first,
  unaligned,
  onChange,
}: {
  wish: LoopForMany;
  /** Points are in its frames. */
  first: Sound;
  /** Why the same points cannot be those of all. */
  unaligned: string | null;
  onChange: (wish: LoopForMany) => void;
}) {
  const put = (change: Partial<LoopForMany>) => onChange({ ...wish, ...change });
  const { where } = wish;
  const { frames, rateHz } = shapeOf(first);
  const isPoints = typeof where === 'object';
  const seam = wish.seam ?? 'leave';
  return (
    <>
      <Options
        legend="What repeats"
        options={wheres}
        value={isPoints ? 'points' : where}
        onChange={(next: Where) =>
          put({ where: next === 'points' ? { startFrame: 0, endFrame: frames } : next })
        }
      />
      {isPoints && (
        <div className="mt-1 ml-6">
          <div className="flex gap-3">
            <TimeField
              label="From"
              frame={where.startFrame}
              rateHz={rateHz}
              tempo={first.tempo}
              problem={(at) => (at < where.endFrame ? null : 'The start must lie before the end.')}
              onChange={(startFrame) => put({ where: { ...where, startFrame } })}
            />
            <TimeField
              label="To"
              frame={where.endFrame}
              rateHz={rateHz}
              tempo={first.tempo}
              problem={(at) =>
                at > where.startFrame ? null : 'The end must lie behind the start.'
              }
              onChange={(endFrame) => put({ where: { ...where, endFrame } })}
            />
          </div>
          {unaligned && <p className="text-error text-xs">{unaligned}</p>}
        </div>
      )}
      <Options
        legend="Where the end meets the start"
        options={seams}
        value={seam}
        onChange={(next) => put({ seam: next === 'leave' ? null : next })}
      />
      <div className="mt-1 ml-6 flex gap-4">
        {seam === 'crossfade' && (
          <>
            <Amount
              label="Seconds"
              value={wish.crossfadeSeconds}
              min={0.001}
              max={600}
              onChange={(crossfadeSeconds) => put({ crossfadeSeconds })}
            />
            <label>
              <span className="text-soft block text-xs font-semibold">Curve</span>
              <select
                className="select select-sm w-auto"
                value={wish.curve}
                onChange={(event) => put({ curve: event.target.value as CrossfadeCurve })}
              >
                {Object.entries(crossfadeCurves).map(([key, { name }]) => (
                  <option key={key} value={key}>
                    {name}
                  </option>
                ))}
              </select>
            </label>
          </>
        )}
        {seam === 'tail' && (
          <>
            <Amount
              label="Seconds at most"
              value={wish.tailSeconds}
              min={0.001}
              max={600}
              onChange={(tailSeconds) => put({ tailSeconds })}
            />
            <Amount
              label="Tail at, dB"
              value={wish.tailDb}
              min={-60}
              max={12}
              onChange={(tailDb) => put({ tailDb })}
            />
          </>
        )}
      </div>
      <p className="text-soft mt-2 text-xs">
        No crossfade and no tail is longer than its sound has room for. Loops that a file marks as
        running back and forth are unrolled.
      </p>
    </>
  );
}

function Options<Value extends string>({
  legend,
  options,
  value,
  onChange,
}: {
  legend: string;
  options: Readonly<Record<Value, string>>;
  value: Value;
  onChange: (value: Value) => void;
}) {
  return (
    <fieldset className="mt-3 first:mt-0">
      <legend className="text-soft text-xs font-semibold">{legend}</legend>
      {(Object.entries(options) as [Value, string][]).map(([key, text]) => (
        <label key={key} className="flex items-center gap-2 py-0.5">
          <input
            type="radio"
            name={legend}
            className="radio radio-xs radio-primary"
            checked={key === value}
            onChange={() => onChange(key)}
          />
          {text}
        </label>
      ))}
    </fieldset>
  );
}

/** A number with its name above it. */
function Amount(props: React.ComponentProps<typeof AmountField>) {
  return (
    <label>
      <span className="text-soft block text-xs font-semibold">{props.label}</span>
      <AmountField className="w-20" {...props} />
    </label>
  );
}
