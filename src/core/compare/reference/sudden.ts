import { noiseSource } from '../../dsp/noise';
import { TAU, type ReferenceKind } from './types';

const CLICK_SECONDS = 0.25;

/** A single sample, four times a second, up and down. */
export const clicks: ReferenceKind = {
  id: 'clicks',
  name: 'Click train',
  says: 'What comes before a click is the codec’s own: shows pre-echo and ringing.',
  make(frames, rateHz) {
    const samples = new Float32Array(frames);
    const every = Math.max(1, Math.round(CLICK_SECONDS * rateHz));
    for (let at = every >> 1, n = 0; at < frames; at += every, n++) {
      samples[at] = n % 2 === 0 ? 0.5 : -0.5;
    }
    return [samples];
  },
};

const BURST_SECONDS = 0.31;

/** Short strokes of hard wood: resonances of noise that die within some hundredths of a second. */
export const bursts: ReferenceKind = {
  id: 'bursts',
  name: 'Wooden bursts',
  says: 'Hard strokes out of silence, with a pitch: codecs smear them to the front.',
  make(frames, rateHz) {
    const noise = noiseSource(4_321);
    const samples = new Float32Array(frames);
    const every = Math.max(1, Math.round(BURST_SECONDS * rateHz));
    const last = Math.round(0.12 * rateHz);
    for (let at = every >> 1, n = 0; at < frames; at += every, n++) {
      const hz = Math.min([2_100, 2_600, 1_850][n % 3]!, rateHz / 5);
      for (let i = 0; i < last && at + i < frames; i++) {
        const t = i / rateHz;
        const wood =
          Math.sin(TAU * hz * t) * Math.exp(-70 * t) +
          0.5 * Math.sin(TAU * hz * 1.62 * t) * Math.exp(-110 * t);
        samples[at + i] = 0.4 * (wood + 0.4 * noise() * Math.exp(-250 * t));
      }
    }
    return [samples];
  },
};

/** Noise that uses the lowest bits of 16. */
export const nearSilence: ReferenceKind = {
  id: 'near-silence',
  name: 'Near-silence',
  says: 'Noise at −84 dBFS: what a codec does where there is almost nothing.',
  make(frames) {
    const noise = noiseSource(99);
    // Uniform noise has a root mean square of 1/√3 of its largest value.
    const most = 10 ** (-84 / 20) * Math.sqrt(3);
    return [new Float32Array(frames).map(() => most * noise())];
  },
};
