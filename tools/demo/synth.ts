/** A few building blocks of synthesis. Everything is deterministic: same call, same frames. */

export const TAU = Math.PI * 2;

/** Frames for so many seconds. */
function frames(seconds: number, rateHz: number): number {
  return Math.round(seconds * rateHz);
}

/** Renders `seconds` of sound from a function of time in seconds. */
export function render(seconds: number, rateHz: number, at: (t: number) => number): Float32Array {
  const samples = new Float32Array(frames(seconds, rateHz));
  for (let i = 0; i < samples.length; i++) samples[i] = at(i / rateHz);
  return samples;
}

/** Two-pole band filter (state variable, Chamberlin 1985). `kind` picks what comes out. */
export function filter(rateHz: number, resonance: number, kind: 'low' | 'band' | 'high') {
  let low = 0;
  let band = 0;
  return (x: number, hz: number): number => {
    const f = 2 * Math.sin((Math.PI * Math.min(hz, rateHz / 6)) / rateHz);
    low += f * band;
    const high = x - low - band / resonance;
    band += f * high;
    return kind === 'low' ? low : kind === 'band' ? band : high;
  };
}

/** Rises over `attack` seconds, stays, and falls over `release` seconds to exactly 0 at `end`. */
export function swell(t: number, attack: number, end: number, release: number): number {
  const rise = Math.min(1, t / attack);
  const fall = Math.min(1, Math.max(0, (end - t) / release));
  return rise * rise * (3 - 2 * rise) * (fall * fall * (3 - 2 * fall));
}

/** Scales all channels together so that the loudest sample has this level. */
export function level(channels: Float32Array[], peakDbfs: number): Float32Array[] {
  const peak = channels.reduce((most, c) => c.reduce((m, x) => Math.max(m, Math.abs(x)), most), 0);
  const gain = 10 ** (peakDbfs / 20) / (peak || 1);
  return channels.map((channel) => channel.map((x) => x * gain));
}
