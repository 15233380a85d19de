import { withFile } from '../files/bytes';
import { openShaped } from './shaped';
import { answering, type Asker } from './interest';
import type { ListenTask } from './listenTasks';
import { questionOf } from './questions';

/** A question may take this long, and for each hour of the sound that much longer. */
const MOST_MS = 60_000;
const MOST_MS_AN_HOUR = 600_000;

/** Answers one question about a sound behind its recipe. `gone` is set when nobody waits any more. */
export function listen(task: ListenTask, gone: Int32Array): Promise<unknown> {
  const { sound, told } = task;
  const question = questionOf(task.question);
  const hours = (sound.frames ?? 0) / (sound.rateHz ?? 48_000) / 3_600;
  const asker: Asker = {
    urgency: question.urgency(told),
    gone,
    deadline: performance.now() + MOST_MS + hours * MOST_MS_AN_HOUR,
  };
  return withFile(sound.path, (file) =>
    answering(asker, async () =>
      question.answer(await openShaped(file, sound, asker), told, { sound, asker }),
    ),
  );
}
