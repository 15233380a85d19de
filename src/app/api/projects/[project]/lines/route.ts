import { answer, whole } from '../../../answer';
import { idsOf } from '../../../fields';

/** Findings, plans and what was built of a project's assignments: of those that `?of=` names, or of all. */
export const GET = answer(async ({ request, params, bijou }) => {
  const { id } = bijou.projectById(whole(params['project'], 'project'));
  const isOfAll = !new URL(request.url).searchParams.has('of');
  return bijou.packs.lines(id, isOfAll ? undefined : idsOf(request));
});
