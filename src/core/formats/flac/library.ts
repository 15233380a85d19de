import type Flac from 'libflacjs/dist/libflac.js';
import { hideFetch } from '../withoutFetch';

/** libFLAC as its package offers it. */
export type Library = typeof Flac;

let loading: Promise<Library> | null = null;

/** Loads the encoder when the first FLAC is written. */
export function libFlac(): Promise<Library> {
  return (loading ??= load());
}

/**
 * The package's WebAssembly build reads its file itself where it finds no `fetch`. It compiles to the same
 * bytes as the plain JavaScript build and is three times as fast.
 */
async function load(): Promise<Library> {
  const showFetch = hideFetch();
  try {
    const { default: library } = await import('libflacjs/dist/libflac.wasm.js');
    await new Promise<void>((resolve) => {
      if (library.isReady()) resolve();
      else library.on('ready', () => resolve());
    });
    return library;
  } finally {
    showFetch();
  }
}
