import { answer, bytesOf, whole } from '../../../../../answer';

/** Looks at an index from elsewhere: what is wrong in it, what would mend it, and which files it names. */
export const POST = answer(async ({ request, params, bijou }) => {
  const [project, brief] = [whole(params['project'], 'project'), params['brief'] ?? ''];
  return bijou.layouts.sentIndex(project, brief, await bytesOf(request, 'index'));
});
