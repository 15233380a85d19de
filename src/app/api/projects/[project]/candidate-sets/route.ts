import { answer, body, whole } from '../../../answer';
import { candidateSetSchema } from '../../../fields';

/** The sets of candidates that are kept in a project. */
export const GET = answer(async ({ params, bijou }) =>
  bijou.candidateSets.list(whole(params['project'], 'project')),
);

/** Keeps a set under a name, in place of one that has it. Answers all. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { name, candidates } = await body(request, candidateSetSchema);
  return bijou.candidateSets.keep(whole(params['project'], 'project'), name, candidates);
});
