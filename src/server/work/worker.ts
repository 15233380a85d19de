import type { MessagePort } from 'node:worker_threads';
import { errorFacts } from '@/core/errors';
import { buildOutput } from './buildOutput';
import { readFile } from './readFile';
import type { Answer, BuildResult, ReadResult, Task } from './tasks';

/** Least time between two reports of progress. */
const REPORT_MS = 120;

/** Entry of a worker thread: one task in, one answer out, progress (0 … 1) on the port. */
export default async function work(input: {
  task: Task;
  port: MessagePort;
}): Promise<Answer<ReadResult | BuildResult>> {
  const { task, port } = input;
  let reported = 0;
  const progress = (share: number) => {
    const now = Date.now();
    if (now - reported < REPORT_MS) return;
    reported = now;
    port.postMessage(Math.min(1, share));
  };
  try {
    const result =
      task.kind === 'read'
        ? await readFile(task, (done, total) => progress(total ? done / total : 0))
        : await buildOutput(task, progress);
    return { ok: true, result };
  } catch (error) {
    return { ok: false, error: errorFacts(error) };
  } finally {
    port.close();
  }
}
