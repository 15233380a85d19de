import type { ChildProcess } from 'node:child_process';

/** What setUp.mjs offers to tools that are written in TypeScript. */
export function run(command: string, args: readonly string[], env?: Record<string, string>): void;
export function freePort(from: number): Promise<number>;
export function start(options: {
  port: number;
  dataDir: string;
  stdio?: 'ignore' | 'inherit';
}): Promise<{ server: ChildProcess; address: string }>;
/** The browser that tests run in. */
export function chromiumPath(): string;
