import { decibels, number } from '../../../shared/format';
import { firstSteps, useLevels } from '../StepEffect';
import type { Extra } from './types';

/** Leaves a little room for what lies between the samples. */
const CEILING_DBTP = -1;

/** Says when a gain would clip, and offers the gain that just does not. */
export const Ceiling: Extra = ({ of, at, walked, sound, onChange }) => {
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
};
