/** Every way a request or a file can be bad. Stable: scripts may match on these. */
export type ErrorCode =
  | 'empty-file'
  | 'not-audio'
  | 'unknown-codec'
  | 'damaged-header'
  | 'no-sound'
  | 'damaged-sound'
  | 'too-large'
  | 'bad-span'
  | 'bad-time'
  | 'bad-setting'
  | 'not-legal'
  | 'not-found'
  | 'not-allowed'
  | 'already-there'
  | 'changed-meanwhile'
  | 'cut-off'
  | 'disk'
  | 'memory'
  | 'too-slow'
  | 'cancelled'
  | 'wrong-call'
  | 'internal';

export interface ErrorFacts {
  code: ErrorCode;
  /** One sentence: what is wrong. The caller adds which file. */
  message: string;
  /** What to do about it. */
  hint: string;
  /** Where in the file, in bytes, when that helps. */
  byteOffset?: number;
  /** Which field of a form or request. */
  field?: string;
}

/** The only error that is meant to be read by people; everything else is a fault of ours. */
export class BijouError extends Error implements ErrorFacts {
  readonly code: ErrorCode;
  readonly hint: string;
  readonly byteOffset?: number;
  readonly field?: string;

  /** By name: the pages' bundles hold several copies of this class, whose errors meet in one place. */
  static override [Symbol.hasInstance](value: unknown): value is BijouError {
    return (value as { name?: unknown } | null)?.name === 'BijouError';
  }

  constructor(
    code: ErrorCode,
    message: string,
    hint: string,
    more: { byteOffset?: number; field?: string } = {},
  ) {
    super(message);
    this.name = 'BijouError';
    this.code = code;
    this.hint = hint;
    if (more.byteOffset !== undefined) this.byteOffset = more.byteOffset;
    if (more.field !== undefined) this.field = more.field;
  }
}

/** Plain data of any thrown value, safe to store, send and print: never a stack trace. */
export function errorFacts(error: unknown): ErrorFacts {
  if (error instanceof BijouError) {
    const { code, message, hint, byteOffset, field } = error;
    return {
      code,
      message,
      hint,
      ...(byteOffset !== undefined && { byteOffset }),
      ...(field !== undefined && { field }),
    };
  }
  const code = (error as { code?: unknown } | null)?.code;
  if (code === 'ENOSPC' || code === 'EDQUOT' || code === 'SQLITE_FULL') {
    return {
      code: 'disk',
      message: 'The disk is full.',
      hint: 'Free some space, then try again. Nothing half-written was kept.',
    };
  }
  if (code === 'EMFILE' || code === 'ENFILE' || /EMFILE|ENFILE/.test(messageOf(error))) {
    return {
      code: 'memory',
      message: 'Too many files are open on this machine.',
      hint: 'End other programs, or allow more open files (ulimit -n), then try again.',
    };
  }
  if (code === 'ENOMEM' || isOutOfMemory(error)) {
    return {
      code: 'memory',
      message: 'There is not enough memory free for this.',
      hint: 'End other programs, then try again.',
    };
  }
  return {
    code: 'internal',
    message: 'Something went wrong inside Bijou.',
    hint: 'Try again; if it happens again, report it with the file that causes it.',
  };
}

function messageOf(error: unknown): string {
  const message = (error as { message?: unknown } | null)?.message;
  return typeof message === 'string' ? message : '';
}

/** What engines throw when they get no memory, for numbers, for WebAssembly and for threads. */
function isOutOfMemory(error: unknown): boolean {
  const { code } = (error ?? {}) as { code?: unknown };
  if (code === 'ERR_WORKER_OUT_OF_MEMORY' || code === 'ERR_WORKER_INIT_FAILED') return true;
  return error instanceof RangeError && /allocat/i.test(messageOf(error));
}

/** Faults that are none of the file's: what was stored is kept, and can be tried again. */
const passing: ReadonlySet<ErrorCode> = new Set(['disk', 'memory', 'too-slow', 'internal']);

/** Whether it may go well the next time, with the same file. */
export function isPassing({ code }: ErrorFacts): boolean {
  return passing.has(code);
}

/** Whether the machine had no room for it. */
export function isShortOfRoom({ code }: ErrorFacts): boolean {
  return code === 'disk' || code === 'memory';
}

/** Revives what `errorFacts` made, e.g. on the other side of a thread boundary. */
export function fromErrorFacts(facts: ErrorFacts): BijouError {
  return new BijouError(facts.code, facts.message, facts.hint, facts);
}
