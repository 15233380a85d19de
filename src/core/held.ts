import type { EncodingPlan } from './encoding';
import type { Warning } from './formats/types';
import type { Recipe } from './recipe/types';
import { plainNumber } from './tradeNames';

/** So often a file is encoded again, each time quieter by what was too much. */
const MOST_TRIES = 4;
/** Below its ceiling by so much, that the next decoding does not lie a hair above it. */
const SPARE_DB = 0.02;

/**
 * Makes a file whose decoded true peak does not rise above what its plan holds it to: what lies above is made once
 * more, by as much quieter, which is said.
 * @param once Makes it with this recipe.
 */
export async function heldBelow<Made extends { warnings: Warning[] }>(
  { recipe, heldDbtp = Infinity, isCopy }: Pick<EncodingPlan, 'recipe' | 'heldDbtp' | 'isCopy'>,
  once: (recipe: Recipe) => Promise<Made>,
  truePeakOf: (made: Made) => number | null,
): Promise<Made> {
  let gainDb = 0;
  for (let tries = 1; ; tries++) {
    const gain = { kind: 'gain', on: true, params: { gainDb } };
    const steps = gainDb === 0 ? recipe.steps : [...recipe.steps, gain];
    const made = await once({ ...recipe, steps });
    const overDb = (truePeakOf(made) ?? -Infinity) - heldDbtp;
    if (overDb <= 0 || isCopy || tries === MOST_TRIES) {
      return gainDb === 0 ? made : { ...made, warnings: [...made.warnings, lowered(gainDb)] };
    }
    gainDb = Math.floor(100 * (gainDb - overDb - SPARE_DB)) / 100;
  }
}

function lowered(gainDb: number): Warning {
  const message =
    `Encoded once more, ${plainNumber(-gainDb, 2)} dB quieter: decoded, it had risen above the ceiling ` +
    'that the destination sets.';
  return { code: 'limited', message };
}
