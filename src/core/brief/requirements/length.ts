import { formatTime } from '../../time';
import type { Requirement } from './requirement';

export const length: Requirement = {
  id: 'length',
  judge({ seconds }, _, { leastSeconds = 0, mostSeconds = Infinity }) {
    if (leastSeconds === 0 && mostSeconds === Infinity) return null;
    const isShort = seconds < leastSeconds;
    const met = !isShort && seconds <= mostSeconds;
    const wanted = [
      leastSeconds > 0 ? `at least ${formatTime(leastSeconds)}` : '',
      mostSeconds < Infinity ? `at most ${formatTime(mostSeconds)}` : '',
    ]
      .filter(Boolean)
      .join(' and ');
    return {
      verdict: met ? 'met' : 'cannot',
      found: formatTime(seconds),
      wanted,
      sentence: met
        ? isWithinBoth(leastSeconds, mostSeconds)
        : isShort
          ? `Too short: the destination takes ${wanted}. Put silence behind it, or repeat it.`
          : `Too long: the destination takes ${wanted}. Keep a shorter span.`,
    };
  },
};

function isWithinBoth(leastSeconds: number, mostSeconds: number): string {
  if (leastSeconds === 0) return 'Short enough.';
  return mostSeconds === Infinity ? 'Long enough.' : 'Neither too short nor too long.';
}
