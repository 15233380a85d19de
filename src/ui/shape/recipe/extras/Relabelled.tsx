import { formatTime, number } from '../../../shared/format';
import type { Extra } from './types';

/** What the true rate means for speed and length. */
export const Relabelled: Extra = ({ walked: { before, after } }) => {
  const factor = before.rateHz / after.rateHz;
  return (
    <p className="text-soft text-xs">
      It plays at {number(1 / factor, 3)} × the speed ({before.rateHz} ÷ {after.rateHz} ={' '}
      {number(factor, 3)}): {formatTime(before.frames / before.rateHz)} become{' '}
      {formatTime(after.frames / after.rateHz)}.
    </p>
  );
};
