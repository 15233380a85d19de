import { useMemo } from 'react';
import type { ClickPlace } from '@/wire';
import { formatTime, plural } from '../../../shared/format';
import { useAnswer } from '../../ask';
import { Hear, upTo } from './Hear';
import type { Extra } from './types';

const SHOWN_CLICKS = 6;

/** What was found, each to be heard before and after; mended once somebody has agreed. */
export const Clicks: Extra = (props) => {
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
};
