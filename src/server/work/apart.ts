import { doTask } from './doTask';
import type { Task } from './tasks';

/** Entry of a process that does one task, and ends with it or with the server that started it. */
process.once('message', (task: Task) => {
  void doTask(task, (share) => process.send?.({ share })).then((answer) => {
    process.send?.({ answer }, () => process.exit());
  });
});
process.once('disconnect', () => process.exit());
