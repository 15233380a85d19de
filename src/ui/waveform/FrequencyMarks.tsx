import { LOWEST_ROW_HZ } from '@/core/measure/spectrogram';
import { kilohertz } from '../shared/format';

const marksHz = [100, 1_000, 10_000];
/** A word farther up would be cut off by the edge. */
const HIGHEST_SHARE = 0.95;

/** Says at the left edge of a spectrogram where some frequencies lie; the figure around it is the place it goes by. */
export function FrequencyMarks({ rateHz }: { rateHz: number }) {
  return marksHz
    .filter((hz) => shareOf(hz, rateHz) < HIGHEST_SHARE)
    .map((hz) => (
      <span
        key={hz}
        aria-hidden
        className="bg-base-100/80 text-soft absolute left-0 translate-y-1/2 rounded-r px-1 text-[10px]"
        style={{ bottom: `${shareOf(hz, rateHz) * 100}%` }}
      >
        {kilohertz(hz)}
      </span>
    ));
}

function shareOf(hz: number, rateHz: number): number {
  return Math.log(hz / LOWEST_ROW_HZ) / Math.log(rateHz / 2 / LOWEST_ROW_HZ);
}
