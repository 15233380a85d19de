import { doTask } from './doTask';
import type { Answer, Task } from './tasks';

/** Entry of a worker thread of the command line. */
export default function work(task: Task): Promise<Answer<unknown>> {
  return doTask(task);
}
