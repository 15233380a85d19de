import type { MessagePort } from 'node:worker_threads';
import { answered, doTask } from './doTask';
import { listen } from './listen';
import type { ListenTask } from './listenTasks';
import type { Answer, Task } from './tasks';

/** Entry of a worker thread: one task in, one answer out, progress (0 … 1) on the port. It may be held by `pause`. */
export default async function work({
  task,
  port,
  pause,
}: {
  task: Task;
  port: MessagePort;
  pause?: Int32Array | undefined;
}): Promise<Answer<unknown>> {
  try {
    return await doTask(task, (share) => port.postMessage(share), pause);
  } finally {
    port.close();
  }
}

/** Entry of the listening thread. Several questions are worked on at a time, in turns. */
export function answer({
  task,
  gone,
}: {
  task: ListenTask;
  gone: Int32Array;
}): Promise<Answer<unknown>> {
  return answered(() => listen(task, gone));
}
