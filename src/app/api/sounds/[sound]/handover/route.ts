import * as yup from 'yup';
import type { HandoverWish } from '@/core/loop/handover';
import { MOST_PASSES, type ListeningWish } from '@/core/loop/listening';
import { tagNames, tidyTags, type Tags } from '@/core/marks';
import { answer, body, whole } from '../../../answer';

/** An hour is longer than anybody listens. */
const seconds = () => yup.number().min(0).max(3_600).required();

const listening: yup.ObjectSchema<ListeningWish> = yup
  .object({
    times: yup.number().integer().min(1).max(MOST_PASSES).required(),
    fadeAfterSeconds: seconds(),
    fadeSeconds: seconds(),
    silenceBeforeSeconds: seconds(),
    silenceBehindSeconds: seconds(),
  })
  .noUnknown();

const schema = yup
  .object({
    bits: yup.number().oneOf([16, 24]).nullable().defined(),
    listening: listening.nullable().defined(),
    listeningForm: yup
      .object({
        writer: yup.string().required(),
        settings: yup.object().required(),
        isUsual: yup.boolean().optional(),
      })
      .noUnknown()
      .default(undefined),
    tags: yup
      .object(Object.fromEntries(tagNames.map((name) => [name, yup.string().max(4_000)])))
      .noUnknown()
      .default(undefined),
  })
  .noUnknown();

/** The newest set of files of a sound's loop; null where there is none. */
export const GET = answer(async ({ params, bijou }) =>
  bijou.oneOffs.latestHandover(whole(params['sound'], 'sound')),
);

/** Makes the files of a sound's loop in the background: pieces, a copy to listen to, and their cue sheet. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { tags, ...wish } = await body(request, schema);
  const tidy = tags && tidyTags(tags as Tags);
  return bijou.oneOffs.beginHandover(whole(params['sound'], 'sound'), {
    ...(wish as HandoverWish),
    tags: tidy,
  });
});
