import type { EncodingPlan } from '@/core/encoding';
import { BijouError } from '@/core/errors';
import type { Estimate } from '@/core/oneOff/estimate';
import { marksAfter } from '@/core/recipe/recipe';
import { shapeOf } from '@/core/recipe/types';
import type { Sound } from '@/wire';
import type { CellService } from './cells';
import type { ListeningService } from './listening';

/** What files will come to before they are made. */
export function estimateService(listening: ListeningService, cells: CellService) {
  /** One file by its plan. */
  async function ofPlan(
    { facts, bytes }: Sound,
    { recipe, writer, settings, sourceSha256: sha256, isCopy }: EncodingPlan,
    signal?: AbortSignal,
  ): Promise<Estimate> {
    if (isCopy || !facts) return { bytes, isExact: true };
    const { tags, loop, markers } = marksAfter(recipe, shapeOf(facts), facts);
    const told = { writer, settings, marks: { tags, loop, markers: [...markers] } };
    return listening.ask({ sha256, recipe, signal }, 'estimate', told);
  }

  /** All files that a destination wants of a sound. @throws not-found where it is not sent there */
  async function ofAssignment(sound: Sound, briefId: string, signal?: AbortSignal) {
    const need = cells.needOf(sound, briefId);
    if (!need) {
      throw new BijouError('not-found', 'The sound does not go there.', 'Send it there first.');
    }
    const sum: Estimate = { bytes: 0, isExact: true };
    for (const { plan } of need.files) {
      const { bytes, isExact } = await ofPlan(sound, plan, signal);
      sum.bytes += bytes;
      sum.isExact &&= isExact;
    }
    return sum;
  }

  return { ofPlan, ofAssignment };
}

export type EstimateService = ReturnType<typeof estimateService>;
