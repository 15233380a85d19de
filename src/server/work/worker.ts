import type { MessagePort } from 'node:worker_threads';
import { errorFacts } from '@/core/errors';
import { buildOutput } from './buildOutput';
import { joinSounds } from './joinSounds';
import { listen } from './listen';
import type { ListenTask } from './listenTasks';
import { readFile } from './readFile';
import type { Answer, Task } from './tasks';

/** Least time between two reports of progress. */
const REPORT_MS = 120;

/** Entry of a worker thread: one task in, one answer out, progress (0 … 1) on the port. */
export default async function work({
  task,
  port,
}: {
  task: Task;
  port: MessagePort;
}): Promise<Answer<unknown>> {
  let reported = 0;
  const progress = (share: number) => {
    const now = Date.now();
    if (now - reported < REPORT_MS) return;
    reported = now;
    port.postMessage(Math.min(1, share));
  };
  try {
    return await answered(() => doTask(task, progress));
  } finally {
    port.close();
  }
}

function doTask(task: Task, progress: (share: number) => void): Promise<unknown> {
  switch (task.kind) {
    case 'read':
      return readFile(task, (done, total) => progress(total ? done / total : 0));
    case 'build':
      return buildOutput(task, progress);
    case 'join':
      return joinSounds(task, progress);
  }
}

/** Entry of the listening thread. Several questions are worked on at a time, in turns. */
export function answer(task: ListenTask): Promise<Answer<unknown>> {
  return answered(() => listen(task));
}

async function answered(work: () => Promise<unknown>): Promise<Answer<unknown>> {
  try {
    return { ok: true, result: await work() };
  } catch (error) {
    return { ok: false, error: errorFacts(error) };
  }
}
