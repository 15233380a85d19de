import { number } from '../../../shared/format';
import { firstSteps, useLevels } from '../StepEffect';
import type { Extra } from './types';

/** Whether the channels can be mixed without cancelling each other. */
export const Correlation: Extra = ({ of, at, walked, sound }) => {
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
};
