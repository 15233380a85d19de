import { BijouError } from './errors';
import { frameOfBar, type Tempo } from './tempo';

/** How a typed time was understood. */
export interface UnderstoodTime {
  frame: number;
  seconds: number;
}

const SECONDS = /^(\d+(?:\.\d+)?)s?$/;
const CLOCK = /^(?:(\d+):)?(\d{1,}):(\d{2}(?:\.\d+)?)$/;
const FRAMES = /^(\d+)f$/;
const BARS = /^b(\d+)(?:\.(\d+))?(?:\+(\d+)\/(\d+))?$/i;

/**
 * Reads a time as people type it: `5`, `5s`, `0.25`, `0:05`, `0:05.250`, `1:02:03`, `220500f`,
 * and, when a tempo is set, `b2`, `b2.3` or `b2.3+1/2` (bar 2, its third beat, half a beat on). Times become
 * the nearest frame.
 * @throws bad-time for anything else, with what is ambiguous about it where that can be told.
 */
export function parseTime(text: string, rateHz: number, tempo?: Tempo | null): UnderstoodTime {
  const typed = text.trim();
  const frames = FRAMES.exec(typed);
  if (frames) return atFrame(Number(frames[1]), rateHz);
  const seconds = SECONDS.exec(typed);
  if (seconds) return atFrame(Math.round(Number(seconds[1]) * rateHz), rateHz);
  const clock = CLOCK.exec(typed);
  if (clock) {
    const [, hours = '0', minutes = '0', rest = '0'] = clock;
    if (Number(rest) < 60 && (clock[1] === undefined || Number(minutes) < 60)) {
      const total = Number(hours) * 3600 + Number(minutes) * 60 + Number(rest);
      return atFrame(Math.round(total * rateHz), rateHz);
    }
  }
  const bars = BARS.exec(typed);
  if (bars && tempo) {
    const [bar, beat, n, of] = [bars[1], bars[2] ?? 1, bars[3] ?? 0, bars[4] ?? 1].map(Number) as [
      number,
      number,
      number,
      number,
    ];
    if (bar < 1 || beat < 1 || beat > tempo.beatsPerBar) {
      throw notThere(typed, `bars count from 1, and a bar has the beats 1 to ${tempo.beatsPerBar}`);
    }
    if (n >= of) throw notThere(typed, 'a part of a beat is less than one, such as 1/2 or 3/4');
    return atFrame(frameOfBar(bar, beat + n / of, tempo, rateHz), rateHz);
  }
  throw new BijouError('bad-time', `"${typed}" is not a time. ${reason(typed)}`, HINT);
}

const SPAN = /^(.+?)\s*(?:-|–|\bto\b)\s*(.+)$/;

/** Reads two times with a dash or "to" between them: `10-25.5`, `0:10 to 0:25.5`. null for one. @throws bad-time */
export function parseSpan(
  text: string,
  rateHz: number,
  tempo?: Tempo | null,
): { start: UnderstoodTime; end: UnderstoodTime } | null {
  const [, start, end] = SPAN.exec(text.trim()) ?? [];
  if (start === undefined || end === undefined) return null;
  return { start: parseTime(start, rateHz, tempo), end: parseTime(end, rateHz, tempo) };
}

function notThere(typed: string, why: string): BijouError {
  return new BijouError('bad-time', `"${typed}" is not a place: ${why}.`, HINT);
}

const HINT = 'Write seconds (5 or 0.25), minutes and seconds (0:05.250) or frames (220500f).';

function reason(typed: string): string {
  if (typed === '') return 'Nothing was typed.';
  if (BARS.test(typed)) return 'Bars and beats need a tempo: set one first.';
  if (typed.startsWith('-')) return 'A time cannot be negative.';
  if (typed.includes(',')) return 'A comma may mean a decimal point or thousands; use a point.';
  if (/^\d*:\d$/.test(typed))
    return `Seconds behind a colon need two digits: ${typed.replace(/:(\d)$/, ':0$1')}?`;
  if (/:(\d{2,})/.test(typed) && /:([6-9]\d)/.test(typed)) return 'Seconds end at 59.';
  return 'It cannot be understood.';
}

function atFrame(frame: number, rateHz: number): UnderstoodTime {
  if (!Number.isSafeInteger(frame)) {
    throw new BijouError('bad-time', 'That time is impossibly long.', HINT);
  }
  return { frame, seconds: frame / rateHz };
}

/** `1:02.345`, for people. */
export function formatTime(seconds: number, decimals = 3): string {
  const unit = 10 ** decimals;
  const ticks = Math.round(seconds * unit);
  const minutes = Math.floor(ticks / unit / 60);
  const rest = ((ticks - minutes * 60 * unit) / unit).toFixed(decimals);
  return `${minutes}:${rest.padStart(decimals > 0 ? decimals + 3 : 2, '0')}`;
}
