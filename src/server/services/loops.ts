import { BijouError } from '@/core/errors';
import { checkAligned, shapeWithoutLoop, withLoop, type LoopForMany } from '@/core/loop/forMany';
import type { Applied, Sound } from '@/wire';
import type { Context } from '../context';
import type { EditService, ValuesOfSound } from './edits';
import { notRead, sourceShape } from './sounds';

/** Loops of many sounds at once. */
export function loopService({ db }: Context, edits: EditService) {
  /**
   * Gives sounds the loop that is wanted, in one change; those that cannot have it are named and left alone.
   * @throws not-allowed for one loop on sounds that are not aligned
   */
  function apply(
    projectId: number,
    soundIds: readonly number[],
    wish: LoopForMany,
    revision?: number,
  ): Applied {
    const sounds = soundIds.flatMap((id) => {
      const sound = db.sounds.byId(id);
      return sound?.projectId === projectId && sound.removedAt === null ? [sound] : [];
    });
    const read = sounds.filter(({ facts }) => facts !== null);
    if (typeof wish.where === 'object') {
      checkAligned(
        read.map((sound) => ({ name: sound.name, shape: shapeWithoutLoop(looping(sound)) })),
      );
    }
    const list: ValuesOfSound[] = [];
    const failed: Applied['failed'] = [];
    for (const sound of sounds) {
      try {
        list.push({ soundId: sound.id, values: { recipe: withLoop(looping(sound), wish) } });
      } catch (error) {
        if (!(error instanceof BijouError)) throw error;
        failed.push({ soundId: sound.id, name: sound.name, message: error.message });
      }
    }
    return { ...edits.change(projectId, 'Loop', list, revision), failed };
  }

  return { apply };
}

function looping(sound: Sound) {
  if (!sound.facts) throw notRead(sound.name);
  return { shape: sourceShape(sound), marks: sound.facts, recipe: sound.recipe };
}
