import { answer, whole } from '../../../answer';

/** The pack as a zip; `?brief=` for one destination only. */
export const GET = answer(async ({ request, params, bijou }) => {
  const projectId = whole(params['project'], 'project');
  const briefId = new URL(request.url).searchParams.get('brief');
  const { name, stream } = bijou.packs.pack(projectId, briefId);
  return new Response(stream, {
    headers: {
      'Content-Type': 'application/zip',
      'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}`,
    },
  });
});
