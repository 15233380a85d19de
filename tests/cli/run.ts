import { execFile, fork } from 'node:child_process';
import { resolve } from 'node:path';

export interface Ran {
  status: number;
  out: string;
  err: string;
  /** What came out, byte for byte. */
  bytes: Buffer;
}

function ran(status: number, out: Buffer, err: Buffer): Ran {
  return { status, out: out.toString(), err: err.toString(), bytes: out };
}

/** What `caller.mjs` answers; bytes in base64. */
interface Answer {
  id: number;
  status: number;
  out: string;
  err: string;
}

/** Runs a call of the command line in a process that is kept for the next ones. */
export const bijou = (cwd: string, ...args: string[]): Promise<Ran> =>
  bijouOver(null, cwd, ...args);

/** The same over a data folder; null for the usual one. */
export function bijouOver(data: string | null, cwd: string, ...args: string[]): Promise<Ran> {
  const { child, waiting } = (caller ??= startCaller());
  return new Promise((done) => {
    const id = calls++;
    waiting.set(id, done);
    // The tests may end only when nobody waits any more.
    child.ref();
    child.channel?.ref();
    child.send({ id, cwd, args, data });
  });
}

let calls = 0;
let caller: ReturnType<typeof startCaller> | undefined;

function startCaller() {
  const child = fork(resolve('tests/cli/caller.mjs'), { execArgv: [] });
  const waiting = new Map<number, (result: Ran) => void>();
  child.on('message', ({ id, status, out, err }: Answer) => {
    waiting.get(id)?.(ran(status, Buffer.from(out, 'base64'), Buffer.from(err, 'base64')));
    waiting.delete(id);
    if (waiting.size > 0) return;
    child.unref();
    child.channel?.unref();
  });
  // Ended by what it was asked for: the next call has a new one.
  child.on('exit', (status) => {
    caller = undefined;
    for (const done of waiting.values()) done(ran(status ?? -1, Buffer.alloc(0), Buffer.alloc(0)));
  });
  return { child, waiting };
}

/** Runs `bin/bijou` as a script would, with variables set and `input` through standard input. */
export function bijouFed(
  input: Uint8Array | null,
  env: Record<string, string>,
  cwd: string,
  ...args: string[]
): Promise<Ran> {
  return new Promise((done) => {
    const child = execFile(
      process.execPath,
      [resolve('bin/bijou'), ...args],
      { cwd, env: { ...process.env, ...env }, encoding: 'buffer', maxBuffer: 1 << 28 },
      (error, out, err) => done(ran(error ? Number(error.code) : 0, out, err)),
    );
    if (input) child.stdin?.end(input);
  });
}

/** The words of a call, as one types them; none of them holds a space. */
export const words = (call: string): string[] => call.split(' ');
