/** How many calls are quiet at the moment, and what they keep from speaking. */
let depth = 0;
let speak: typeof console.error | null = null;

/**
 * Runs a decoder that prints its complaints to the console. What is wrong with a file is said by us,
 * once, in words.
 */
export async function quietly<T>(work: () => T | Promise<T>): Promise<T> {
  if (depth++ === 0) {
    speak = console.error;
    console.error = () => undefined;
  }
  try {
    return await work();
  } finally {
    if (--depth === 0 && speak) console.error = speak;
  }
}
