import { answer, body, whole } from '../../../answer';
import { comparisonSchema } from '../../../fields';

/** The runs of trials of a project, the newest first. */
export const GET = answer(async ({ params, bijou }) =>
  bijou.comparisons.list(whole(params['project'], 'project')),
);

/** Tries candidates on sounds. Answers the run, whose trials are made in the background. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { sounds, candidates } = await body(request, comparisonSchema);
  const project = whole(params['project'], 'project');
  return bijou.comparisons.details(bijou.trying.begin(project, sounds, candidates));
});
