import { plainNumber } from '../../tradeNames';
import { toleranceOf } from '../target';
import type { Requirement } from './requirement';

/** So far rounding may bring a peak above its ceiling, in dB. */
const PEAK_TOLERANCE_DB = 0.05;

const dbtp = (value: number | null) => (value === null ? '−∞ dBTP' : `${plainNumber(value)} dBTP`);

/** A ceiling for the true peak. */
export const peak: Requirement = {
  id: 'peak',
  judge({ truePeakDbtp }, _, { level }) {
    if (level?.peakDbtp === undefined) return null;
    const wanted = `at most ${dbtp(level.peakDbtp)}`;
    if (truePeakDbtp === undefined) {
      return { verdict: 'convert', found: 'not measured yet', wanted, sentence: `Held ${wanted}.` };
    }
    const met = (truePeakDbtp ?? -Infinity) <= level.peakDbtp + PEAK_TOLERANCE_DB;
    const by = level.by ?? (level.lufs === undefined ? 'all' : 'moments');
    return {
      verdict: met ? 'met' : 'convert',
      found: dbtp(truePeakDbtp),
      wanted,
      sentence: met
        ? `Its true peak is ${dbtp(truePeakDbtp)}: low enough.`
        : `Its true peak is ${dbtp(truePeakDbtp)}; ` +
          `${by === 'all' ? 'all of it is' : 'its loud moments are'} turned down to ${dbtp(level.peakDbtp)}.`,
    };
  },
};

const lufsText = (value: number) => `${plainNumber(value)} LUFS`;

/** A loudness, met within its tolerance. What is too short or too quiet to have one meets it. */
export const loudness: Requirement = {
  id: 'loudness',
  judge({ lufs }, _, { level }) {
    if (level?.lufs === undefined) return null;
    const tolerance = toleranceOf(level);
    const wanted = `${lufsText(level.lufs)} within ${plainNumber(tolerance)} LU`;
    if (lufs === undefined) {
      const sentence = `Brought to ${lufsText(level.lufs)}.`;
      return { verdict: 'convert', found: 'not measured yet', wanted, sentence };
    }
    if (lufs === null) {
      const sentence = 'It is too short or too quiet to have a loudness.';
      return { verdict: 'met', found: 'none', wanted, sentence };
    }
    const met = Math.abs(lufs - level.lufs) <= tolerance;
    return {
      verdict: met ? 'met' : 'convert',
      found: lufsText(lufs),
      wanted,
      sentence: met
        ? `Its loudness is ${lufsText(lufs)}, as wanted.`
        : `Its loudness is ${lufsText(lufs)}; it is brought to ${lufsText(level.lufs)}.`,
    };
  },
};
