import { BijouError } from '@/core/errors';

/** Whoever read our standard output has closed it, as `head` does: enough was seen. */
export class OutputClosed extends Error {}

// Every write says itself whether it was taken; without a listener a failed one would end the process.
process.stdout.on('error', () => undefined);

/**
 * Gives bytes to standard output, no faster than somebody reads them.
 * @throws OutputClosed, and disk when it cannot be written
 */
export function pour(bytes: Uint8Array | string): Promise<void> {
  return new Promise((taken, failed) =>
    process.stdout.write(bytes, (error) => (error ? failed(outputFault(error)) : taken())),
  );
}

/** `isEnded` false leaves the line open. */
export function print(line: string, isEnded = true): Promise<void> {
  return pour(isEnded ? `${line}\n` : line);
}

export function say(line: string): void {
  process.stderr.write(`${line}\n`);
}

function outputFault(error: Error): Error {
  const { code } = error as NodeJS.ErrnoException;
  if (code === 'EPIPE' || code === 'ERR_STREAM_DESTROYED') return new OutputClosed();
  const isFull = code === 'ENOSPC';
  return new OutputFault(
    'disk',
    isFull ? 'Standard output is on a full disk.' : `Standard output cannot be written (${code}).`,
    isFull ? 'Free some space, then try again.' : 'Check where it goes.',
  );
}

/** Standard output is no more: whatever is being done for it ends. */
export class OutputFault extends BijouError {
  static override [Symbol.hasInstance](value: unknown): value is OutputFault {
    return Object.getPrototypeOf(value ?? {}) === OutputFault.prototype;
  }
}
