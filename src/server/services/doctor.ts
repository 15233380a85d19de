import { checkFinished } from '@/core/brief/check';
import { briefById } from '@/core/brief/catalogue';
import { labelDoubt } from '@/core/measure/labelDoubt';
import { listedFacts } from '@/core/measure/probe';
import { worriesOf } from '@/core/measure/worries';
import type { Recipe } from '@/core/recipe/types';
import type { Examined, Sound } from '@/wire';
import type { Context } from '../context';
import { projectById } from './lookUp';
import type { EditService } from './edits';
import type { OwnBriefService } from './ownBriefs';
import type { SendingService } from './sending';
import type { SoundService } from './sounds';

/** A file from elsewhere, as it is sent. */
export interface Shown {
  fileName: string;
  stream: AsyncIterable<Uint8Array>;
  /** As announced; null where nobody said. */
  bytes: number | null;
}

/** Looking at finished files from elsewhere: who would take them, and if not, why. */
export function doctorService(
  { db, store, briefs, pool }: Context,
  sounds: SoundService,
  edits: EditService,
  sending: SendingService,
  ownBriefs: OwnBriefService,
) {
  function read({ stream, bytes }: Shown) {
    return store.lookAt(stream, bytes, (source) =>
      pool().run({ kind: 'read', source, raw: null, peaks: null, voice: true }),
    );
  }

  /** Holds a file against every brief of a project. Nothing of it is kept. @throws what reading it says */
  async function examine(projectId: number, shown: Shown): Promise<Examined> {
    projectById(db, projectId);
    const { fileName } = shown;
    const { facts, warnings, pace } = await read(shown);
    const checked = { ...facts, fileName, seamScore: facts.seam?.score ?? null };
    const listed = listedFacts(facts);
    const misnamed = worriesOf(listed, fileName, warnings).find(
      ({ code }) => code === 'name-disagrees',
    );
    return {
      fileName,
      facts: listed,
      warnings: warnings.map(({ message }) => message),
      misnamed: misnamed?.sentence ?? null,
      rateDoubt: labelDoubt(listed, pace),
      verdicts: briefs(projectId).map((brief) => ({
        briefId: brief.id,
        ...checkFinished(checked, brief),
      })),
    };
  }

  /**
   * Brings a file in and sends it to a brief, so that it is converted as that one wants it.
   * @param relabelHz The rate that it really has, where its label is wrong.
   */
  async function cure(
    projectId: number,
    { fileName, stream, bytes }: Shown,
    briefId: string,
    relabelHz: number | null,
  ): Promise<Pick<Sound, 'id'>> {
    briefById(briefs(projectId), briefId);
    const { sound } = await sounds.add(projectId, fileName, stream, bytes);
    if (relabelHz !== null) {
      const relabel = { kind: 'relabel', on: true, params: { rateHz: relabelHz } };
      const recipe: Recipe = { version: 1, steps: [relabel] };
      edits.change(projectId, 'Correct the rate of', [{ soundId: sound.id, values: { recipe } }]);
    }
    sending.send(projectId, { sounds: [sound.id], briefs: [briefId] });
    return { id: sound.id };
  }

  /** Begins a brief from a file that works. @throws what reading it says, not-legal */
  async function beginBrief(projectId: number, shown: Shown) {
    const { facts } = await read(shown);
    return ownBriefs.fromFile(projectId, shown.fileName, listedFacts(facts));
  }

  return { examine, cure, beginBrief };
}
