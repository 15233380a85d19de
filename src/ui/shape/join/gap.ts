import { parseTime } from '@/core/time';

/** A gap in seconds as it was typed; with a minus in front it is an overlap. @throws bad-time */
export function parseGap(typed: string, rateHz: number): number {
  const text = typed.trim().replace(/^−/, '-');
  const isOverlap = text.startsWith('-');
  const { frame } = parseTime(isOverlap ? text.slice(1) : text, rateHz);
  return ((isOverlap ? -1 : 1) * frame) / rateHz || 0;
}
