import { kilohertz } from '../../tradeNames';
import { acceptedRates } from '../words';
import { accepts } from '../accepted';
import { rateTarget } from '../target';
import type { Requirement } from './requirement';

export const sampleRate: Requirement = {
  id: 'sample-rate',
  judge({ sampleRateHz, channels }, file) {
    const target = rateTarget(file, sampleRateHz, channels);
    if (!file.sampleRatesHz && target === sampleRateHz) return null;
    const met = accepts(file.sampleRatesHz, sampleRateHz) && target === sampleRateHz;
    const found = kilohertz(sampleRateHz);
    const wanted = file.sampleRatesHz ? acceptedRates(file.sampleRatesHz) : kilohertz(target);
    const lost = target < sampleRateHz ? ` Nothing above ${kilohertz(target / 2)} is kept.` : '';
    return {
      verdict: met ? 'met' : 'convert',
      found,
      wanted,
      sentence: met
        ? `${found} is accepted.`
        : `Resampled from ${found} to ${kilohertz(target)}: the pitch stays the same.${lost}`,
    };
  },
};
