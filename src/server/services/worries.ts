import { BijouError, errorFacts } from '@/core/errors';
import { withCure } from '@/core/recipe/cure';
import { shapeAfter } from '@/core/recipe/recipe';
import type { Recipe } from '@/core/recipe/types';
import type { Changed, SetAside, Sound } from '@/wire';
import type { Context } from '../context';
import type { EditService, ValuesOfSound } from './edits';
import { sourceShape } from './sounds';

/** What came of doing something about a worry of many sounds. */
export interface WorryResult extends Changed {
  /** Sounds that could not be cured, and why. */
  failed: { name: string; message: string }[];
}

/** Curing worries with recipe steps, or letting them be with a note. All of it can be undone. */
export function worryService({ db }: Context, edits: EditService) {
  function withWorry(projectId: number, code: string, soundIds: readonly number[]) {
    return soundIds.flatMap((id) => {
      const sound = db.sounds.byId(id);
      if (sound?.projectId !== projectId) return [];
      const worry = sound.worries.find((one) => one.code === code);
      return worry ? [{ sound, worry }] : [];
    });
  }

  /** Puts the cure of a worry into the recipes of those sounds that have it. */
  function cure(
    projectId: number,
    code: string,
    soundIds: readonly number[],
    revision?: number,
  ): WorryResult {
    const failed: WorryResult['failed'] = [];
    const list = withWorry(projectId, code, soundIds).flatMap(
      ({ sound, worry }): ValuesOfSound[] => {
        if (worry.cure.length === 0) throw noCure(worry.name);
        try {
          return [{ soundId: sound.id, values: { recipe: cured(sound, worry.cure) } }];
        } catch (error) {
          failed.push({ name: sound.name, message: errorFacts(error).message });
          return [];
        }
      },
    );
    return { ...edits.change(projectId, 'Cure', list, revision), failed };
  }

  /** Lets a worry be, with a note that says why. */
  function setAside(
    projectId: number,
    code: string,
    soundIds: readonly number[],
    note: string,
  ): WorryResult {
    return put(projectId, 'Set aside a worry of', code, soundIds, (sound) => [
      { code, note, sourceSha256: sound.sourceSha256 },
    ]);
  }

  /** Worries again about what was set aside. */
  function takeUp(projectId: number, code: string, soundIds: readonly number[]): WorryResult {
    return put(projectId, 'Take up a worry of', code, soundIds, () => []);
  }

  function put(
    projectId: number,
    verb: string,
    code: string,
    soundIds: readonly number[],
    asides: (sound: Sound) => SetAside[],
  ): WorryResult {
    const list = withWorry(projectId, code, soundIds).map(({ sound }): ValuesOfSound => {
      const others = db.sounds
        .values(sound.id, ['setAside'])
        .setAside.filter((aside) => aside.code !== code);
      return { soundId: sound.id, values: { setAside: [...others, ...asides(sound)] } };
    });
    return { ...edits.change(projectId, verb, list), failed: [] };
  }

  return { cure, setAside, takeUp };
}

/** The recipe with the cure in it, tried on the sound's shape. */
function cured(sound: Sound, steps: Recipe['steps']): Recipe {
  const recipe = withCure(sound.recipe, steps);
  shapeAfter(recipe, sourceShape(sound));
  return recipe;
}

function noCure(name: string): BijouError {
  return new BijouError(
    'not-allowed',
    `There is no step that cures “${name}”.`,
    'Set the worry aside with a note, or bring in a better file.',
  );
}
