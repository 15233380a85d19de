import { errorFacts } from '@/core/errors';
import { copySamples } from './copySamples';
import { encodeFile } from './encodeFile';
import { findOutcome } from './findOutcome';
import { joinSounds } from './joinSounds';
import { lookAtIndex } from './lookAtIndex';
import { makeIcon } from './makeIcon';
import { outlinePack } from './outlinePack';
import { planPack } from './planPack';
import { readFile } from './readFile';
import { readLongBody } from './readLongBody';
import { rehearsePack } from './rehearsePack';
import { measureDecoding, tryFile } from './tryFile';
import type { Answer, Task } from './tasks';

/** Least time between two reports of progress. */
const REPORT_MS = 120;

/** Does one task, wherever it runs, and reports now and then how far it is (0 … 1). */
export async function doTask(
  task: Task,
  report: (share: number) => void,
  pause?: Int32Array,
): Promise<Answer<unknown>> {
  let reported = 0;
  const progress = (share: number) => {
    const now = Date.now();
    if (now - reported < REPORT_MS) return;
    reported = now;
    report(Math.min(1, share));
  };
  return answered(() => dispatch(task, progress, pause));
}

type Doing<Kind extends Task['kind']> = (
  task: Extract<Task, { kind: Kind }>,
  progress: (share: number) => void,
  /** Not 0 while others have their turn. */
  pause?: Int32Array,
) => Promise<unknown>;

/** How each kind of task is done. */
const doing: { [Kind in Task['kind']]: Doing<Kind> } = {
  read: (task, progress) => readFile(task, (done, total) => progress(total ? done / total : 0)),
  copy: copySamples,
  encode: encodeFile,
  join: joinSounds,
  outcome: findOutcome,
  trial: tryFile,
  decoding: measureDecoding,
  rehearse: rehearsePack,
  plan: planPack,
  outline: outlinePack,
  index: lookAtIndex,
  icon: makeIcon,
  body: readLongBody,
};

function dispatch(
  task: Task,
  progress: (share: number) => void,
  pause: Int32Array | undefined,
): Promise<unknown> {
  return (doing[task.kind] as Doing<Task['kind']>)(task as never, progress, pause);
}

/** An error travels as data. */
export async function answered(work: () => Promise<unknown>): Promise<Answer<unknown>> {
  try {
    return { ok: true, result: await work() };
  } catch (error) {
    return { ok: false, error: errorFacts(error) };
  }
}
