import { answer, whole } from '../../answer';

/** The whole state of a project, or with `?since=` a revision what is other than then. */
export const GET = answer(async ({ request, params, bijou }) => {
  const projectId = whole(params['project'], 'project');
  const since = new URL(request.url).searchParams.get('since');
  return since === null
    ? bijou.projectState(projectId)
    : bijou.projectNews(projectId, whole(since, 'since'));
});
