import { peakCures } from '@/core/recipe/peakCures';
import type { Recipe } from '@/core/recipe/types';
import type { ShapedLevels } from '@/wire';
import { number } from '../../shared/format';

/** Says when the result would clip, and cures it by one press. */
export function AboveFullScale({
  levels: { peakDbfs, truePeakDbtp },
  recipe,
  onCure,
}: {
  levels: Pick<ShapedLevels, 'peakDbfs' | 'truePeakDbtp'>;
  recipe: Recipe;
  onCure: (recipe: Recipe) => void;
}) {
  if (peakDbfs === null || peakDbfs < 0.005) return null;
  return (
    <div role="status" className="border-warning/60 my-1.5 rounded border px-2 py-1.5 text-xs">
      <p className="text-warning font-semibold">
        It would clip: its peaks lie {number(peakDbfs, 1)} dB above full scale.
      </p>
      <div className="mt-1 flex flex-wrap gap-1">
        {peakCures(recipe, truePeakDbtp).map(({ name, steps }) => (
          <button
            key={name}
            className="btn btn-paper btn-xs"
            onClick={() => onCure({ ...recipe, steps: steps(recipe) })}
          >
            {name}
          </button>
        ))}
      </div>
    </div>
  );
}
