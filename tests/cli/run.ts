import { execFile } from 'node:child_process';
import { resolve } from 'node:path';

/** Runs `bin/bijou` as a script would. */
export function bijou(cwd: string, ...args: string[]) {
  return bijouWith({}, cwd, ...args);
}

export interface Ran {
  status: number;
  out: string;
  err: string;
  /** What came out, byte for byte. */
  bytes: Buffer;
}

export function bijouWith(
  env: Record<string, string>,
  cwd: string,
  ...args: string[]
): Promise<Ran> {
  return bijouFed(null, env, cwd, ...args);
}

/** The same with `input` through standard input. */
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
      (error, out, err) =>
        done({
          status: error ? Number(error.code) : 0,
          out: out.toString(),
          err: err.toString(),
          bytes: out,
        }),
    );
    if (input) child.stdin?.end(input);
  });
}
