import { fork } from 'node:child_process';
import type { Answer, Task } from './tasks';

/** What a process that works apart tells. */
type Told = { share: number } | { answer: Answer<unknown> };

/** Does a task in a process of its own: if that comes to grief, nothing else does. */
export function runApart(
  entry: string,
  task: Task,
  signal: AbortSignal,
  progress: (share: number) => void,
): Promise<Answer<unknown>> {
  return new Promise((resolve, reject) => {
    const child = fork(entry, {
      execArgv: [],
      serialization: 'advanced',
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    });
    const kill = () => void child.kill('SIGKILL');
    child.on('message', (told: Told) => {
      if ('answer' in told) resolve(told.answer);
      else progress(told.share);
    });
    child.on('error', reject);
    child.on('exit', (status, by) => {
      signal.removeEventListener('abort', kill);
      reject(new Error(`its process ended with ${by ?? `status ${status}`}`));
    });
    signal.addEventListener('abort', kill, { once: true });
    if (signal.aborted) kill();
    else child.send(task);
  });
}
