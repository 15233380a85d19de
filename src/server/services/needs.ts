import { LRUCache } from 'lru-cache';
import { briefById } from '@/core/brief/catalogue';
import { checkFinished, type Judged } from '@/core/brief/check';
import type { Choices } from '@/core/brief/choices';
import { needOf, type Need } from '@/core/brief/needs';
import type { Brief } from '@/core/brief/schema';
import { BijouError, errorFacts, fromErrorFacts } from '@/core/errors';
import type { Tags } from '@/core/marks';
import type { Assignment, Sound } from '@/wire';
import type { Context } from '../context';
import type { Encoding } from '../db/encodings';
import { encodingKey } from './encodings';
import { finishedFacts } from './cellStates';

/** So many needs are kept in memory, about 3 kB each. */
const MOST_KNOWN = 4_000;

/** What an assignment needs, with the keys of its files. */
export interface KeyedNeed extends Need {
  keys: Map<string, string>;
}

/** What sounds need for their destinations, and what these say of what was made. */
export function needService({ briefs }: Pick<Context, 'briefs'>) {
  // A sound is the same object until something of it changes: then it is planned anew.
  const needs = new LRUCache<string, { sound: Sound; brief: Brief | undefined; need: KeyedNeed }>({
    max: MOST_KNOWN,
  });

  function needOfAssigned(sound: Sound, { briefId, choices }: Assignment): KeyedNeed {
    // People edit their own briefs: another text is another object.
    const brief = briefs(sound.projectId).find(({ id }) => id === briefId);
    const key = `${sound.id} ${briefId} ${JSON.stringify(choices)}`;
    const known = needs.get(key);
    if (known?.sound === sound && known.brief === brief) return known.need;
    const need = workedOut(sound, briefId, choices);
    needs.set(key, { sound, brief, need });
    return need;
  }

  function workedOut(sound: Sound, briefId: string, choices: Choices): KeyedNeed {
    try {
      const brief = briefById(briefs(sound.projectId), briefId);
      const { facts } = sound;
      if (sound.state === 'reading' || sound.error || !facts) throw notReady(sound);
      // The very same object for all briefs: what is known of it is worked out once.
      const need = needOf(sound as Sound & { facts: typeof facts }, brief, choices);
      return {
        ...need,
        keys: new Map(need.files.map(({ file, plan }) => [file.id, encodingKey(plan)])),
      };
    } catch (error) {
      return { findings: [], files: [], obstacle: errorFacts(error), keys: new Map() };
    }
  }

  // What was measured on a finished file never changes, and what a brief says of it hardly ever.
  const verdicts = new WeakMap<object, WeakMap<Brief, Map<string, Judged>>>();

  /** What a brief says of a finished file, from what was measured on it. */
  function verdictOf(
    { verification }: Pick<Encoding, 'verification'>,
    brief: Brief,
    fileId: string,
    { clipping }: Choices,
    wantedTags: Tags | undefined,
  ): Judged | null {
    if (!verification) return null;
    const byBrief = verdicts.get(verification) ?? new WeakMap<Brief, Map<string, Judged>>();
    verdicts.set(verification, byBrief);
    const byFile = byBrief.get(brief) ?? new Map<string, Judged>();
    byBrief.set(brief, byFile);
    const key = JSON.stringify([fileId, clipping, wantedTags]);
    const verdict =
      byFile.get(key) ??
      checkFinished({ ...finishedFacts(verification), wantedTags }, brief, fileId, clipping);
    byFile.set(key, verdict);
    return verdict;
  }

  return { needOfAssigned, verdictOf };
}

export type NeedService = ReturnType<typeof needService>;

/** A joined sound whose parts have changed is not what it will be. */
function notReady({ name, error }: Sound): BijouError {
  return error
    ? fromErrorFacts(error)
    : new BijouError(
        'not-allowed',
        `“${name}” is being put together.`,
        'Wait a moment, then try again.',
      );
}
