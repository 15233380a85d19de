import * as yup from 'yup';
import { BijouError } from '@/core/errors';
import { parseRecipe } from '@/core/recipe/recipe';
import { questionOf, questions, type QuestionName } from '@/server/work/questions';
import { numbers } from '../../../../pcm';
import { answer, body, whole } from '../../../../answer';

/** Samples, pictures and figures of a sound behind any recipe, stored or not: whatever is in the list of questions. */
export const POST = answer(async ({ request, params, bijou }) => {
  const sound = bijou.sounds.byId(whole(params['sound'], 'sound'));
  const name = String(params['question']);
  if (!Object.hasOwn(questions, name)) {
    throw new BijouError('not-found', 'There is no such question.', 'Correct the address.');
  }
  const asked = name as QuestionName;
  const schema = questionOf(asked).told.shape({ recipe: yup.mixed().required() }).noUnknown();
  const { recipe, ...told } = (await body(request, schema as yup.Schema<object>)) as {
    recipe: unknown;
  };
  const of = {
    sha256: sound.sourceSha256,
    recipe: parseRecipe(recipe),
    signal: request.signal,
  };
  return numbers(await bijou.listening.ask(of, asked, told as never));
});
