import { packNews } from '@/wire/travelling';
import { answer, body, whole } from '../../answer';
import { projectName } from '../../fields';

/**
 * The whole state of a project, or with `?since=` a revision what is other than then: with `briefs=` a version
 * also other destinations, with `after=` a sound also the next of those behind it, as rows.
 */
export const GET = answer(async ({ request, params, bijou }) => {
  const projectId = whole(params['project'], 'project');
  const query = new URL(request.url).searchParams;
  const [since, after] = [query.get('since'), query.get('after')];
  if (since === null) return bijou.projectState(projectId);
  const known = {
    revision: whole(since, 'since'),
    briefsVersion: query.get('briefs') ?? undefined,
  };
  return after === null
    ? bijou.projectNews(projectId, known)
    : packNews(bijou.projectNews(projectId, { ...known, after: whole(after, 'after') }));
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
