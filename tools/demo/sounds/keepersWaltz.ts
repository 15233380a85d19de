import { level, render, swell, TAU } from '../synth';
import type { DemoSound } from '../types';

export const waltzTempo = { bpm: 138, beatsPerBar: 3 };

const BEAT = 60 / waltzTempo.bpm;
/** Melody in beats from the start; midi note and length. Four bars of introduction, then sixteen. */
const intro: [beat: number, note: number, beats: number][] = [
  [0, 69, 2],
  [2, 71, 1],
  [3, 72, 3],
  [6, 71, 2],
  [8, 69, 1],
  [9, 68, 2.8],
];
const tune: [beat: number, note: number, beats: number][] = [
  [0, 76, 2],
  [2, 74, 1],
  [3, 72, 2],
  [5, 71, 1],
  [6, 69, 3],
  [9, 72, 1],
  [10, 71, 1],
  [11, 69, 1],
  [12, 68, 2],
  [14, 69, 1],
  [15, 71, 2],
  [17, 74, 1],
  [18, 72, 3],
  [21, 76, 3],
  [24, 77, 2],
  [26, 76, 1],
  [27, 74, 2],
  [29, 72, 1],
  [30, 71, 3],
  [33, 74, 3],
  [36, 72, 2],
  [38, 71, 1],
  [39, 69, 2],
  [41, 68, 1],
  [42, 69, 5],
];
/** The last chord, which rings on when the tune begins again. */
const ringing: [beat: number, note: number, beats: number][] = [
  [45, 57, 5.4],
  [45, 64, 5.2],
  [45, 69, 5],
];
/** Bass note and chord of each bar behind the introduction. */
const bars = [
  [45, 60, 64],
  [45, 60, 64],
  [41, 60, 65],
  [41, 60, 65],
  [40, 59, 64],
  [40, 59, 62],
  [45, 60, 64],
  [45, 60, 64],
  [38, 62, 65],
  [38, 62, 65],
  [43, 59, 62],
  [43, 59, 65],
  [45, 60, 64],
  [40, 59, 62],
  [45, 60, 64],
  [45, 60, 64],
] as const;

const hertz = (note: number) => 440 * 2 ** ((note - 69) / 12);

/** The bars, from 1, at which the tune begins and begins again. */
export const waltzLoop = { fromBar: 5, toBar: 21 };

/** The lighthouse keeper's waltz on a small reed organ: an introduction of four bars, then sixteen that repeat. */
export const keepersWaltz: DemoSound = {
  fileName: "keeper's waltz.wav",
  group: 'music',
  rateHz: 48_000,
  writer: 'wav',
  settings: { bits: 16 },
  make(rateHz) {
    const voices: { at: number; hz: number; long: number; loud: number; side: number }[] = [];
    const add = (beat: number, note: number, beats: number, loud: number, side: number) =>
      voices.push({ at: beat * BEAT, hz: hertz(note), long: beats * BEAT, loud, side });
    for (const [beat, note, beats] of intro) add(beat, note, beats, 0.8, 0.1);
    for (const [beat, note, beats] of tune) add(12 + beat, note, beats, 0.8, 0.1);
    for (const [beat, note, beats] of ringing) add(12 + beat, note, beats, 0.3, 0);
    bars.forEach(([bass, low, high], bar) => {
      add(12 + bar * 3, bass, 0.9, 0.9, -0.35);
      for (const beat of [1, 2]) {
        add(12 + bar * 3 + beat, low, 0.6, 0.35, 0.4);
        add(12 + bar * 3 + beat, high, 0.6, 0.35, 0.4);
      }
    });
    const seconds = (12 + 48 + 3) * BEAT;
    const side = (hand: number) => {
      const out = new Float32Array(Math.round(seconds * rateHz));
      for (const { at, hz, long, loud, side: place } of voices) {
        const gain = loud * (1 + hand * place) * 0.5;
        const note = render(long + 0.08, rateHz, (t) => {
          const w = TAU * hz * t * (1 + hand * 0.0006);
          const reed =
            Math.sin(w) + 0.45 * Math.sin(2 * w) + 0.3 * Math.sin(3 * w) + 0.12 * Math.sin(5 * w);
          return reed * swell(t, 0.025, long + 0.08, 0.12) * (1 + 0.04 * Math.sin(TAU * 5.5 * t));
        });
        const start = Math.round(at * rateHz);
        note.forEach((x, i) => {
          if (start + i < out.length) out[start + i]! += x * gain;
        });
      }
      return out;
    };
    return level([side(-1), side(1)], -2);
  },
};
