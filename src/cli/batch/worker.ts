import { workerData } from 'node:worker_threads';
import { doTask } from './doTask';
import { heed, Shared } from './stopping';
import type { Answer, Task } from './tasks';

const shared = new Shared(workerData as SharedArrayBuffer);
heed(shared);
shared.loaded();

/** Entry of a worker thread of the command line. */
export default function work(task: Task): Promise<Answer<unknown>> {
  return doTask(task);
}
