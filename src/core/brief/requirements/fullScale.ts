import { plainNumber } from '../../tradeNames';
import type { Requirement } from './requirement';

/** Rounding alone is no clipping. */
const LEAST_OVER_DB = 0.01;

/** So little above it is not heard where a lossy codec leaves it. */
const FORGIVEN_DB = 0.1;

/** What lies above full scale is cut off by formats of whole numbers, unless somebody says what is done instead. */
export const fullScale: Requirement = {
  id: 'full-scale',
  judge({ overDb, bitDepth }, file, { level }) {
    // A ceiling turns it down.
    const isHandled = level?.peakDbtp !== undefined || level?.lufs !== undefined;
    if (overDb === undefined || file.holdsBeyond || isHandled) return null;
    const wanted = 'nothing above full scale';
    if (overDb < LEAST_OVER_DB) {
      return { verdict: 'met', found: wanted, wanted, sentence: 'Nothing lies above full scale.' };
    }
    const found = `${plainNumber(overDb, overDb < 0.1 ? 2 : 1)} dB above full scale`;
    if (overDb < FORGIVEN_DB && bitDepth === null) {
      const sentence = `Decoded it lies ${found}, which the codec has left: so little is not heard.`;
      return { verdict: 'met', found, wanted, sentence };
    }
    return {
      verdict: 'decide',
      found,
      wanted,
      sentence: `Its loudest moment lies ${found}, and would be cut off: the file would clip.`,
    };
  },
};
