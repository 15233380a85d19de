import { clicks } from './clicks';
import { crossing } from './crossing';
import { estimate } from './estimate';
import { levels } from './levels';
import { pcm } from './pcm';
import { peaks } from './peaks';
import type { Question } from './question';
import { seam } from './seam';
import { sounding } from './sounding';
import { spectrogram } from './spectrogram';
import { tempo } from './tempo';
import { voice } from './voice';

/** Everything that can be asked about a sound behind a recipe, by the name under which it is asked. */
export const questions = {
  pcm,
  peaks,
  levels,
  spectrogram,
  sounding,
  crossing,
  clicks,
  estimate,
  seam,
  tempo,
  voice,
};

export type QuestionName = keyof typeof questions;
export type ToldOf<Name extends QuestionName> =
  (typeof questions)[Name] extends Question<infer Told, unknown> ? Told : never;
export type AnswerOf<Name extends QuestionName> = Awaited<
  ReturnType<(typeof questions)[Name]['answer']>
>;

/** The question of that name, its types forgotten. */
export function questionOf(name: QuestionName): Question<object, unknown> {
  return questions[name] as unknown as Question<object, unknown>;
}
