import type { ListenedSound } from './listenedSound';
import type { QuestionName } from './questions';

/** One question to the listening thread, with what is told with it. */
export interface ListenTask {
  sound: ListenedSound;
  question: QuestionName;
  told: object;
}
