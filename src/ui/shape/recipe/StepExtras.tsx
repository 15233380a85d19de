import { Headphones } from 'lucide-react';
import { useMemo } from 'react';
import type { WalkedStep } from '@/core/recipe/recipe';
import type { Recipe, Step } from '@/core/recipe/types';
import type { ClickPlace, Sound } from '@/wire';
import { decibels, formatTime, number, plural } from '../../shared/format';
import { useAnswer } from '../ask';
import { hearSteps } from '../hearing';
import { firstSteps, useLevels } from './StepEffect';
import type { RecipeOf } from './StepList';

interface Props {
  of: RecipeOf;
  walked: WalkedStep;
  /** Place of the step, from 0. */
  at: number;
  isOpen: boolean;
  onChange: (step: Step) => void;
}

/** What is to be known of some kinds of steps before one is content with them. */
export function StepExtras(props: Props) {
  const { sound } = props.of;
  const Extra = extras[props.walked.step.kind];
  if (!sound) return null;
  return (
    <>
      {Extra && <Extra {...props} sound={sound} />}
      {props.isOpen && (
        <div className="mt-1 flex gap-1.5">
          <Hear {...props} sound={sound} when="before" />
          <Hear {...props} sound={sound} when="after" />
        </div>
      )}
    </>
  );
}

type Extra = (props: Props & { sound: Sound }) => React.ReactNode;

const extras: Readonly<Record<string, Extra>> = {
  channels: Correlation,
  declick: Clicks,
  gain: Ceiling,
  relabel: Relabelled,
};

function Hear({
  of,
  at,
  sound,
  when,
  place,
}: Props & { sound: Sound; when: 'before' | 'after'; place?: number }) {
  const steps = when === 'before' ? at : at + 1;
  return (
    <button
      className="btn btn-paper btn-xs"
      title={`Hear the sound ${when} this step`}
      onClick={() =>
        hearSteps(sound, upTo(of.recipe, steps), steps, `${when} step ${at + 1}`, place)
      }
    >
      <Headphones size={12} aria-hidden /> {when === 'before' ? 'Before' : 'After'}
    </button>
  );
}

/** The first steps, the last of them switched on: what it would do, whether it does it or not. */
function upTo(recipe: Recipe, count: number): Recipe {
  const steps = firstSteps(recipe, count).steps;
  return {
    ...recipe,
    steps: steps.map((step, i) => (i === count - 1 ? { ...step, on: true } : step)),
  };
}

/** Whether the channels can be mixed without cancelling each other. */
function Correlation({ of, at, walked, sound }: Props & { sound: Sound }) {
  const mixes = walked.step.params['mode'] === 'mix' && walked.before.channelCount === 2;
  const { data } = useLevels(sound, firstSteps(of.recipe, at), false, mixes);
  if (!mixes || !data || data.correlation === null) return null;
  const { correlation } = data;
  return (
    <p className={`text-xs ${correlation < 0 ? 'text-warning' : 'text-soft'}`}>
      Correlation {number(correlation, 2)}:{' '}
      {correlation < 0
        ? 'left and right work against each other; mixed, they cancel. Keep one side instead, or turn the polarity of one.'
        : correlation > 0.5
          ? 'left and right agree; mixing loses next to nothing.'
          : 'left and right are unlike; mixing is safe, the width goes.'}
    </p>
  );
}

const SHOWN_CLICKS = 6;

/** What was found, each to be heard before and after; mended once somebody has agreed. */
function Clicks(props: Props & { sound: Sound }) {
  const { of, at, sound, walked, onChange } = props;
  const { step } = walked;
  const asked = useMemo(() => ({ sound, recipe: upTo(of.recipe, at + 1) }), [sound, of.recipe, at]);
  const { data, problem } = useAnswer<ClickPlace[]>(asked, 'clicks', {});
  if (problem) return <p className="text-error text-xs">{problem.message}</p>;
  if (!data) return <p className="text-soft text-xs">looking for clicks …</p>;
  if (data.length === 0) return <p className="text-soft text-xs">No clicks were found.</p>;
  return (
    <div className="text-xs">
      <p>
        {plural(data.length, 'click')} found{step.on ? ' and mended:' : ', and left as they are:'}
      </p>
      <ul>
        {data.slice(0, SHOWN_CLICKS).map(({ startFrame, channel, frames }) => (
          <li key={`${channel} ${startFrame}`} className="mt-0.5 flex items-center gap-1.5">
            {formatTime(startFrame / walked.before.rateHz)}, {plural(frames, 'frame')}
            <Hear {...props} when="before" place={startFrame} />
            <Hear {...props} when="after" place={startFrame} />
          </li>
        ))}
      </ul>
      {data.length > SHOWN_CLICKS && (
        <p className="text-soft">and {data.length - SHOWN_CLICKS} more</p>
      )}
      {!step.on && (
        <button
          className="btn btn-primary btn-xs mt-1"
          onClick={() => onChange({ ...step, on: true })}
        >
          Mend {data.length === 1 ? 'this click' : `these ${data.length} clicks`}
        </button>
      )}
    </div>
  );
}

/** Leaves a little room for what lies between the samples. */
const CEILING_DBTP = -1;

/** Says when a gain would clip, and offers the gain that just does not. */
function Ceiling({ of, at, walked, sound, onChange }: Props & { sound: Sound }) {
  const gainDb = Number(walked.step.params['gainDb']);
  const { data } = useLevels(sound, firstSteps(of.recipe, at + 1), true, gainDb > 0);
  if (gainDb <= 0 || !data?.truePeakDbtp || (data.peakDbfs ?? -1) <= 0) return null;
  const fitting = Math.floor((gainDb - data.truePeakDbtp + CEILING_DBTP) * 10) / 10;
  return (
    <div className="text-warning mt-0.5 text-xs">
      <p>
        Peaks reach {decibels(data.peakDbfs)} dBFS here: what is above full scale is clipped, unless
        a later step lowers it.
      </p>
      <button
        className="btn btn-paper btn-xs mt-1"
        onClick={() => onChange({ ...walked.step, params: { gainDb: fitting } })}
      >
        Use {number(fitting)} dB, which peaks at {number(CEILING_DBTP)} dBTP
      </button>
    </div>
  );
}

/** What the true rate means for speed and length. */
function Relabelled({ walked: { before, after } }: Props) {
  const factor = before.rateHz / after.rateHz;
  return (
    <p className="text-soft text-xs">
      It plays at {number(1 / factor, 3)} × the speed ({before.rateHz} ÷ {after.rateHz} ={' '}
      {number(factor, 3)}): {formatTime(before.frames / before.rateHz)} become{' '}
      {formatTime(after.frames / after.rateHz)}.
    </p>
  );
}
