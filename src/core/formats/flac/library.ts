import type Flac from 'libflacjs/dist/libflac.js';

/** libFLAC as its package offers it. */
export type Library = typeof Flac;

let loading: Promise<Library> | null = null;

/** Loads the encoder when the first FLAC is written. */
export function libFlac(): Promise<Library> {
  return (loading ??= load());
}

/**
 * The package's WebAssembly build takes `fetch` and streaming compilation where it finds them, and then asks
 * them for a path of the disk, which they refuse. While it starts, they are out of its sight: then it reads
 * its file itself. It compiles to the same bytes as the plain JavaScript build and is three times as fast.
 */
async function load(): Promise<Library> {
  const { fetch } = globalThis;
  const { instantiateStreaming } = WebAssembly;
  const hidden = { fetch: undefined, instantiateStreaming: undefined };
  Object.assign(globalThis, { fetch: hidden.fetch });
  Object.assign(WebAssembly, { instantiateStreaming: hidden.instantiateStreaming });
  try {
    const { default: library } = await import('libflacjs/dist/libflac.wasm.js');
    await new Promise<void>((resolve) => {
      if (library.isReady()) resolve();
      else library.on('ready', () => resolve());
    });
    return library;
  } finally {
    Object.assign(globalThis, { fetch });
    Object.assign(WebAssembly, { instantiateStreaming });
  }
}
