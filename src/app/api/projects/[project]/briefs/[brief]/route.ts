import { briefById } from '@/core/brief/catalogue';
import { demandsOf } from '@/core/brief/demands';
import { briefTextOf, differences } from '@/core/brief/edit';
import { MOST_BRIEF_BYTES } from '@/core/brief/exchange';
import { answer, textOf, whole } from '../../../../answer';

/** What a brief demands, as it is written and in words; with `?beside=` where it differs from another one. */
export const GET = answer(async ({ request, params, bijou }) => {
  const briefs = bijou.briefsOf(whole(params['project'], 'project'));
  const brief = briefById(briefs, params['brief'] ?? '');
  const beside = new URL(request.url).searchParams.get('beside');
  return {
    text: briefTextOf(brief),
    demands: demandsOf(brief),
    differences: beside === null ? [] : differences(brief, briefById(briefs, beside)),
  };
});

/** Puts what somebody wrote in the place of a brief of their own: its next version. */
export const PUT = answer(async ({ request, params, bijou }) =>
  bijou.ownBriefs.edit(
    whole(params['project'], 'project'),
    params['brief'] ?? '',
    await textOf(request, MOST_BRIEF_BYTES),
  ),
);

/** Forgets a brief of one's own to which no sound goes. */
export const DELETE = answer(async ({ params, bijou }) => {
  bijou.ownBriefs.forget(whole(params['project'], 'project'), params['brief'] ?? '');
});
