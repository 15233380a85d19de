import { answer, whole } from '../../../../answer';
import { shownFile } from '../../../../shown';

/** Brings the body in and sends it to `?brief=`; `?relabel=` says which rate it really has. */
export const POST = answer(async ({ request, params, bijou }) => {
  const query = new URL(request.url).searchParams;
  const relabel = query.get('relabel');
  return bijou.doctor.cure(
    whole(params['project'], 'project'),
    shownFile(request),
    query.get('brief') ?? '',
    relabel === null ? null : whole(relabel, 'relabel'),
  );
});
