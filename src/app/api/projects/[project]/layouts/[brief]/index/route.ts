import { answer, bytesOf, whole } from '../../../../../answer';

/** Looks at an index from elsewhere: what is wrong in it, what would mend it, and which files it names. */
export const POST = answer(async ({ request, params, bijou }) => {
  const [project, brief] = [whole(params['project'], 'project'), params['brief'] ?? ''];
  const found = await bijou.layouts.sentIndex(project, brief, await bytesOf(request, 'index'));
  if (!(found instanceof Uint8Array)) return found;
  return new Response(new Uint8Array(found), {
    headers: { 'Content-Type': 'application/json', 'Cache-Control': 'no-store' },
  });
});
