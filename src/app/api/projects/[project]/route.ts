import { answer, body, whole } from '../../answer';
import { projectName } from '../../fields';

/** The whole state of a project, or with `?since=` a revision what is other than then. */
export const GET = answer(async ({ request, params, bijou }) => {
  const projectId = whole(params['project'], 'project');
  const since = new URL(request.url).searchParams.get('since');
  return since === null
    ? bijou.projectState(projectId)
    : bijou.projectNews(projectId, whole(since, 'since'));
});

/** Gives it another name. */
export const PATCH = answer(async ({ request, params, bijou }) => {
  const { name } = await body(request, projectName);
  return bijou.projects.rename(whole(params['project'], 'project'), name);
});

/** Deletes it; with `?for=good` one that was deleted before, with its bytes. */
export const DELETE = answer(async ({ request, params, bijou }) => {
  const id = whole(params['project'], 'project');
  const isForGood = new URL(request.url).searchParams.get('for') === 'good';
  await (isForGood ? bijou.projects.letGo(id) : bijou.projects.remove(id));
});
