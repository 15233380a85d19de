import { cancelledJson, print, say } from './output';
import { STATUS } from './status';

/** Longest that what was begun has time to come to its end, in milliseconds. */
const PATIENCE_MS = 700;
/** … and what is said about it. */
const TELLING_MS = 150;
const SIGNALS = ['SIGINT', 'SIGTERM', 'SIGHUP'] as const;

/** What has to be done when a call is told to end. */
export interface Stopping {
  /** Has what is being done end soon. */
  stop(): Promise<void> | void;
  /** Says what has become of it; `isOver` where it has come to its end. */
  tell(isOver: boolean): Promise<void> | void;
  /** Whether the process must not be ended in the usual way yet. */
  isFragile?(): boolean;
}

/** Of the call that is being done. */
const call = { isJson: false, isEnding: false };
let current: { how: Stopping; over: Promise<unknown> } | null = null;

/** Whether the call was told to end: nothing more is put in place then. */
export const isTold = () => call.isEnding;

/**
 * Does something that is to be ended in order when the call is told to end. Once it was, this never returns: whatever it
 * comes to is no result of the call.
 */
export async function stoppable<T>(how: Stopping, work: () => Promise<T>): Promise<T> {
  const over = work();
  current = { how, over: over.catch(() => undefined) };
  try {
    const result = await over;
    return call.isEnding ? await forever() : result;
  } catch (error) {
    if (call.isEnding) return forever();
    throw error;
  } finally {
    if (!call.isEnding) current = null;
  }
}

/** Has the first signal really end this process, in order where that is possible within a second. */
export function heedSignals(isJson: boolean): void {
  call.isJson = isJson;
  for (const signal of SIGNALS) {
    const others = process.listeners(signal);
    process.on(signal, () => void end(signal));
    // Afterwards: a signal that comes while nobody listens would be lost.
    for (const other of others) process.off(signal, other);
  }
}

async function end(signal: NodeJS.Signals): Promise<void> {
  // Whoever asks twice does not want to wait.
  if (call.isEnding) process.exit(STATUS.stopped);
  call.isEnding = true;
  const { how, over } = current ?? {};
  const orderly = async () => {
    await how?.stop();
    await over;
    return true;
  };
  const isOver = await Promise.race([orderly().catch(() => false), after(PATIENCE_MS, false)]);
  await Promise.race([tell(how, isOver), after(TELLING_MS, undefined)]);
  if (!how?.isFragile?.()) process.exit(STATUS.stopped);
  // What is not finished goes now: behind this nothing of ours is done any more.
  process.emit('exit', STATUS.stopped);
  process.removeAllListeners(signal);
  process.kill(process.pid, signal);
}

async function tell(how: Stopping | undefined, isOver: boolean): Promise<void> {
  try {
    if (how) return await how.tell(isOver);
    if (call.isJson) await print(cancelledJson());
    say('Stopped.');
  } catch {
    // Nobody hears it any more.
  }
}

const forever = () => new Promise<never>(() => undefined);

function after<T>(ms: number, value: T): Promise<T> {
  return new Promise((resume) => setTimeout(() => resume(value), ms));
}
