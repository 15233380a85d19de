import type { EncodingPlan } from './encoding';
import type { Warning } from './formats/types';
import type { Recipe } from './recipe/types';
import { plainNumber } from './tradeNames';

/** So often a file is encoded again, each time quieter by what was too much. */
const MOST_TRIES = 4;
/** Below its ceiling by so much, that the next decoding does not lie a hair above it. */
const SPARE_DB = 0.02;

/** What a plan holds its decoded file to. */
type Held = Pick<EncodingPlan, 'recipe' | 'heldDbtp' | 'isHeldInside' | 'isCopy'>;

/** Peaks of a file as it is decoded, and as it was to be written, in dB; null for silence. */
interface Peaks {
  peakDbfs: number | null;
  truePeakDbtp: number | null;
  loudestDbfs: number | null;
}

/**
 * Makes a file whose decoded peaks do not rise above what its plan holds them to: what lies above is made once more, by
 * as much quieter, which is said.
 * @param once Makes it with this recipe.
 */
export async function heldBelow<Made extends { warnings: Warning[] }>(
  { recipe, heldDbtp = Infinity, isHeldInside = false, isCopy }: Held,
  once: (recipe: Recipe) => Promise<Made>,
  peaksOf: (made: Made) => Peaks,
): Promise<Made> {
  let gainDb = 0;
  let ceiling = '';
  for (let tries = 1; ; tries++) {
    const gain = { kind: 'gain', on: true, params: { gainDb } };
    const steps = gainDb === 0 ? recipe.steps : [...recipe.steps, gain];
    const made = await once({ ...recipe, steps });
    const { peakDbfs, truePeakDbtp, loudestDbfs } = peaksOf(made);
    const overCeiling = (truePeakDbtp ?? -Infinity) - heldDbtp;
    // An encoder that takes whole numbers cuts off what is written above full scale.
    const highest = Math.max(peakDbfs ?? -Infinity, loudestDbfs ?? -Infinity);
    const overScale = isHeldInside ? highest : -Infinity;
    const overDb = Math.max(overCeiling, overScale);
    if (overDb <= 0 || isCopy || tries === MOST_TRIES) {
      return gainDb === 0
        ? made
        : { ...made, warnings: [...made.warnings, lowered(gainDb, ceiling)] };
    }
    ceiling ||= overCeiling > 0 ? 'the ceiling that the destination sets' : 'full scale';
    gainDb = Math.floor(100 * (gainDb - overDb - SPARE_DB)) / 100;
  }
}

function lowered(gainDb: number, ceiling: string): Warning {
  const message = `Encoded once more, ${plainNumber(-gainDb, 2)} dB quieter: decoded, it had risen above ${ceiling}.`;
  return { code: 'limited', message };
}
