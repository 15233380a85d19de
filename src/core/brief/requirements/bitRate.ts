import { plainNumber } from '../../tradeNames';
import { accepts, isSpan, type Accepted } from '../accepted';
import { numbersText } from '../words';
import type { Requirement } from './requirement';

/** So far an average may lie beside what is asked for, as a share. */
const AVERAGE_TOLERANCE = 0.1;

/** Kept or on the average, in kbit/s. */
export const bitRate: Requirement = {
  id: 'bit-rate',
  isOfFinished: true,
  judge({ bitRateKbps, constantKbps }, file) {
    const { bitRatesKbps, isConstant } = file;
    if (bitRateKbps === undefined || (!bitRatesKbps && isConstant === undefined)) return null;
    const keeps = constantKbps != null;
    const kbps = constantKbps ?? bitRateKbps;
    const found = `${plainNumber(kbps)} kbit/s, ${keeps ? 'constant' : 'variable'}`;
    const how = isConstant === undefined ? '' : isConstant ? ', constant' : ', variable';
    const wanted = bitRatesKbps ? `${numbersText(bitRatesKbps)} kbit/s${how}` : how.slice(2);
    const isRate = accepts(keeps ? bitRatesKbps : widened(bitRatesKbps), kbps);
    const met = isRate && (isConstant === undefined || isConstant === keeps);
    return {
      verdict: met ? 'met' : 'convert',
      found,
      wanted,
      sentence: met
        ? `Its bit rate is ${found}, as wanted.`
        : `Its bit rate is ${found}; the destination takes ${wanted}.`,
    };
  },
};

function widened(wanted: Accepted | undefined): Accepted | undefined {
  if (!wanted) return undefined;
  const values = isSpan(wanted) ? [wanted.from, wanted.to] : wanted;
  return {
    from: Math.min(...values) * (1 - AVERAGE_TOLERANCE),
    to: Math.max(...values) * (1 + AVERAGE_TOLERANCE),
  };
}
