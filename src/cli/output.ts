import { BijouError, errorFacts, type ErrorFacts } from '@/core/errors';

/** Whoever read our standard output has closed it, as `head` does: enough was seen. */
export class OutputClosed extends Error {}

// Every write says itself whether it was taken; without a listener a failed one would end the process.
for (const stream of [process.stdout, process.stderr]) stream.on('error', () => undefined);

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
  const shown = harmless(line);
  return pour(isEnded ? `${shown}\n` : shown);
}

/** The same of a call that makes files: it goes on although nobody reads what it says any more. */
export async function printOn(line: string): Promise<void> {
  await print(line).catch((error: unknown) => {
    if (!(error instanceof OutputClosed)) throw error;
  });
}

export function say(line: string): void {
  process.stderr.write(`${harmless(line)}\n`);
}

/** What went wrong with a whole call, for those who read JSON. */
export function errorJson({ code, message, hint }: ErrorFacts): string {
  return JSON.stringify({ error: { code, message, hint } }, null, 2);
}

export function cancelledJson(): string {
  return errorJson(errorFacts(new BijouError('cancelled', 'It was stopped.', 'Call it again.')));
}

/** Marks that a terminal would obey: they come from names. */
const OBEYED =
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f\u202a-\u202e\u2066-\u2069]|\r(?!\n)/g;

/** A text whose marks a terminal only shows: escaped as JSON does it, so that JSON stays the same value. */
function harmless(text: string): string {
  return text.replace(OBEYED, escaped);
}

/** The same of a name, which is in one line. */
export function harmlessName(name: string): string {
  return harmless(name.replace(/[\t\r\n]/g, escaped));
}

const escaped = (mark: string) => `\\u${mark.charCodeAt(0).toString(16).padStart(4, '0')}`;

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
