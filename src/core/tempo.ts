/** What turns time into bars and beats. */
export interface Tempo {
  /** Beats a minute. */
  bpm: number;
  beatsPerBar: number;
}

export const tempoLimits = { bpm: { min: 10, max: 999 }, beatsPerBar: { min: 1, max: 32 } };

/** May be fractional. */
export function framesPerBeat({ bpm }: Tempo, rateHz: number): number {
  return (60 / bpm) * rateHz;
}

/** So many bars from a place on, in frames. */
export interface BarsSpan {
  endFrame: number;
  /** What the exact length has beyond whole frames, −0.5 … 0.5; it is not lost, see `barsFrom`. */
  remainderFrames: number;
}

/**
 * Where so many bars from a frame on end. A frame that is the nearest to a beat stands for that beat: then the
 * end is the nearest frame to its own beat, and however many bars there are, nothing drifts.
 */
export function barsFrom(startFrame: number, bars: number, tempo: Tempo, rateHz: number): BarsSpan {
  const beat = framesPerBeat(tempo, rateHz);
  const nearest = Math.round(startFrame / beat) * beat;
  const start = Math.abs(nearest - startFrame) <= 0.5 + 1e-6 ? nearest : startFrame;
  const length = bars * tempo.beatsPerBar * beat;
  const endFrame = Math.round(start + length);
  return { endFrame, remainderFrames: length - (endFrame - startFrame) };
}

/** Bar and beat as people count them, from 1; the beat with its fraction. */
export function barAndBeat(frame: number, tempo: Tempo, rateHz: number) {
  const beats = frame / framesPerBeat(tempo, rateHz);
  // A frame that is the nearest to a beat counts as on it.
  const snapped = Math.abs(beats - Math.round(beats)) * framesPerBeat(tempo, rateHz) <= 0.5 + 1e-6;
  const whole = snapped ? Math.round(beats) : beats;
  const bar = Math.floor(whole / tempo.beatsPerBar);
  return { bar: bar + 1, beat: whole - bar * tempo.beatsPerBar + 1 };
}

/** Parts of a beat that have a name, the simplest first. */
const NAMED_PARTS = [2, 3, 4, 6, 8, 12, 16, 24, 32];

/** Bar, beat and the part of a beat on from there, `n` of `of`; where none fits, the nearest 32nd. */
function namedPlace(frame: number, tempo: Tempo, rateHz: number) {
  const { bar, beat } = barAndBeat(frame, tempo, rateHz);
  const whole = Math.floor(beat);
  const part = beat - whole;
  const isOn = (n: number, of: number) =>
    Math.abs(n / of - part) * framesPerBeat(tempo, rateHz) <= 0.5 + 1e-6;
  const of = NAMED_PARTS.find((parts) => isOn(Math.round(part * parts), parts)) ?? 32;
  // What is nearer to the next beat than to any named part of this one still lies in front of it.
  return { bar, beat: whole, n: Math.min(of - 1, Math.round(part * of)), of };
}

/** `3` on the first beat of a bar, `3.2` on another, `3.2+1/2` half a beat on. */
export function barLabel(frame: number, tempo: Tempo, rateHz: number): string {
  const { bar, beat, n, of } = namedPlace(frame, tempo, rateHz);
  const part = n > 0 ? `+${simplest(n, of)}` : '';
  return beat > 1 ? `${bar}.${beat}${part}` : `${bar}${part}`;
}

/** The same as people type it: `b3`, `b3.2`, `b3.2+1/2`. */
export function formatBars(frame: number, tempo: Tempo, rateHz: number): string {
  return `b${barLabel(frame, tempo, rateHz)}`;
}

function simplest(n: number, of: number): string {
  const divisor = [16, 8, 4, 3, 2].find((d) => n % d === 0 && of % d === 0);
  return divisor ? simplest(n / divisor, of / divisor) : `${n}/${of}`;
}

/** The frame nearest to a bar and beat, both from 1; the beat may have a fraction. */
export function frameOfBar(bar: number, beat: number, tempo: Tempo, rateHz: number): number {
  return Math.round(((bar - 1) * tempo.beatsPerBar + (beat - 1)) * framesPerBeat(tempo, rateHz));
}
