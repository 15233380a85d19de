import { answer, body } from '../answer';
import { candidateQuerySchema } from '../fields';

/** Candidates as they are written, or fine steps around one, with what people call them. */
export const POST = answer(async ({ request, bijou }) => {
  const { texts, around } = await body(request, candidateQuerySchema);
  return around ? bijou.candidateSets.around(around) : bijou.candidateSets.read(texts ?? []);
});
