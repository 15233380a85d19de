import { resolve } from 'node:path';
import { openBijou, type Bijou } from './bijou';

/** Next loads modules once per route bundle; the one instance therefore lives on the process. */
const shared = globalThis as typeof globalThis & { bijouInstance?: Promise<Bijou> | undefined };

/** The instance of this process, over `BIJOU_DATA` (default `./data`). A start that failed is tried anew. */
export function bijou(): Promise<Bijou> {
  return (shared.bijouInstance ??= open());
}

async function open(): Promise<Bijou> {
  try {
    // The bundler would take whatever lies in a folder that it cannot name for a part of the program.
    return await openBijou(
      resolve(/* turbopackIgnore: true */ process.env['BIJOU_DATA'] ?? 'data'),
    );
  } catch (error) {
    shared.bijouInstance = undefined;
    throw error;
  }
}

/**
 * Ends the process when it is told to, after work in progress was put back and the data folder was let go.
 * Pages that are open hold connections that never end by themselves: nobody waits for them.
 */
export function endInOrder(): void {
  const end = async () => {
    const opened = await shared.bijouInstance?.catch(() => undefined);
    await opened?.close();
  };
  for (const signal of ['SIGINT', 'SIGTERM'] as const) {
    process.once(signal, () => void end().finally(() => process.exit()));
  }
}
