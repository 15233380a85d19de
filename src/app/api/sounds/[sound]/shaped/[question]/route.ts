import * as yup from 'yup';
import { BijouError } from '@/core/errors';
import { parseRecipe } from '@/core/recipe/recipe';
import type { Bijou } from '@/server/bijou';
import type { Listened } from '@/server/services/listening';
import { binary, pcmResponse } from '../../../../pcm';
import { answer, body, whole } from '../../../../answer';

const frame = () => yup.number().integer().min(0).required();
const span = { startFrame: frame(), endFrame: frame() };

/** A question: what has to be told with it, and how it is answered. */
function question<Told extends object>(
  told: yup.ObjectSchema<Told>,
  ask: (listening: Bijou['listening'], of: Listened, told: Told) => Promise<unknown>,
) {
  const schema = told.shape({ recipe: yup.mixed().required() }).noUnknown();
  return async (request: Request, listening: Bijou['listening'], sha256: string) => {
    const { recipe, ...rest } = await body(
      request,
      schema as yup.Schema<Told & { recipe: unknown }>,
    );
    const of = { sha256, recipe: parseRecipe(recipe), signal: request.signal };
    return ask(listening, of, rest as unknown as Told);
  };
}

const questions = {
  pcm: question(
    yup.object({ start: frame(), frames: frame() }),
    async (listening, of, { start, frames }) =>
      pcmResponse(await listening.samples(of, start, frames)),
  ),
  peaks: question(
    yup.object({ start: frame(), end: frame(), columns: frame() }),
    async (listening, of, { start, end, columns }) =>
      binary(await listening.columns(of, start, end, columns)),
  ),
  levels: question(
    yup.object({ isThorough: yup.boolean().required() }),
    (listening, of, { isThorough }) => listening.levels(of, isThorough),
  ),
  spectrogram: question(
    yup.object({ ...span, columns: frame(), rows: frame() }),
    async (listening, of, { columns, rows, ...where }) =>
      binary(await listening.spectrogram(of, where, { columns, rows })),
  ),
  sounding: question(
    yup.object({
      thresholdDb: yup.number().min(-140).max(0).required(),
      leastSilenceSeconds: yup.number().min(0).max(3_600).required(),
    }),
    (listening, of, options) => listening.sounding(of, options),
  ),
  crossing: question(
    yup.object({
      frame: frame(),
      direction: yup.mixed<-1 | 0 | 1>().oneOf([-1, 0, 1]).required(),
    }),
    async (listening, of, told) => ({
      frame: await listening.crossing(of, told.frame, told.direction),
    }),
  ),
  clicks: question(yup.object({}), (listening, of) => listening.clicks(of)),
};

/**
 * Samples, pictures and figures of a sound behind any recipe, stored or not: `pcm`, `peaks`, `levels`,
 * `spectrogram`, `sounding`, `crossing`, `clicks`.
 */
export const POST = answer(async ({ request, params, bijou }) => {
  const sound = bijou.sounds.byId(whole(params['sound'], 'sound'));
  const name = String(params['question']);
  if (!Object.hasOwn(questions, name)) {
    throw new BijouError('not-found', 'There is no such question.', 'Correct the address.');
  }
  const ask = questions[name as keyof typeof questions];
  return ask(request, bijou.listening, sound.sourceSha256);
});
