import * as yup from 'yup';
import { crossfadeCurves, type CrossfadeCurve } from '@/core/dsp/loop';
import type { LoopForMany } from '@/core/loop/forMany';
import { loopSeams, type LoopSeam } from '@/core/recipe/steps/loop';
import { answer, body, whole } from '../../../answer';
import { MOST_SOUNDS, revisionField } from '../../../fields';

const frame = () => yup.number().integer().min(0).required();
const points = yup.object({ startFrame: frame(), endFrame: frame() }).noUnknown();
const oneOf = <Key extends string>(of: Readonly<Record<Key, unknown>>) =>
  yup.mixed<Key>().oneOf(Object.keys(of) as Key[]);

const wish = yup
  .object({
    where: yup
      .mixed<LoopForMany['where']>(
        (value): value is LoopForMany['where'] =>
          value === 'own' || value === 'whole' || points.isValidSync(value, { strict: true }),
      )
      .required(),
    seam: oneOf<LoopSeam>(loopSeams).nullable().defined(),
    crossfadeSeconds: yup.number().min(0).max(3_600).required(),
    curve: oneOf<CrossfadeCurve>(crossfadeCurves).required(),
    tailSeconds: yup.number().min(0).max(3_600).required(),
    tailDb: yup.number().min(-60).max(12).required(),
  })
  .noUnknown();

const schema = yup
  .object({
    sounds: yup.array(yup.number().integer().required()).max(MOST_SOUNDS).required(),
    wish: wish.required(),
    revision: revisionField,
  })
  .noUnknown();

/** Gives many sounds a loop, or makes the seams of those that they have. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { sounds, wish: wanted, revision } = await body(request, schema);
  const projectId = whole(params['project'], 'project');
  return bijou.loops.apply(projectId, sounds, wanted as LoopForMany, revision);
});
