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

/** Bar and beat as people count them, from 1; the beat with its fraction. */
export function barAndBeat(frame: number, tempo: Tempo, rateHz: number) {
  const beats = frame / framesPerBeat(tempo, rateHz);
  // A frame that is the nearest to a beat counts as on it.
  const snapped = Math.abs(beats - Math.round(beats)) * framesPerBeat(tempo, rateHz) <= 0.5 + 1e-6;
  const whole = snapped ? Math.round(beats) : beats;
  const bar = Math.floor(whole / tempo.beatsPerBar);
  return { bar: bar + 1, beat: whole - bar * tempo.beatsPerBar + 1 };
}

/** `3|2`, or `3|2.25` between beats. */
export function formatBars(frame: number, tempo: Tempo, rateHz: number): string {
  const { bar, beat } = barAndBeat(frame, tempo, rateHz);
  return `${bar}|${Number(beat.toFixed(2))}`;
}

/** The frame nearest to a bar and beat, both from 1. */
export function frameOfBar(bar: number, beat: number, tempo: Tempo, rateHz: number): number {
  return Math.round(((bar - 1) * tempo.beatsPerBar + (beat - 1)) * framesPerBeat(tempo, rateHz));
}
