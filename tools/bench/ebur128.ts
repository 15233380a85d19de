import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';

type Measure = (rateHz: number, ...pointersAndLengths: number[]) => number;

interface Exports {
  memory: WebAssembly.Memory;
  __wbindgen_malloc(bytes: number): number;
  ebur128_integrated_mono: Measure;
  ebur128_integrated_stereo: Measure;
  ebur128_true_peak_mono: Measure;
  ebur128_true_peak_stereo: Measure;
}

/**
 * The independent loudness meter that ours is held against. Its own glue is made for bundlers, so the
 * module is called directly; it frees what it is given.
 */
export async function ebur128() {
  const folder = dirname(createRequire(import.meta.url).resolve('ebur128-wasm/package.json'));
  const module = new WebAssembly.Module(await readFile(join(folder, 'ebur128_wasm_bg.wasm')));
  const imports: Record<string, Record<string, () => void>> = {};
  for (const { module: from, name } of WebAssembly.Module.imports(module)) {
    (imports[from] ??= {})[name] = () => {
      throw new Error(`the loudness meter called ${name}`);
    };
  }
  const exports = new WebAssembly.Instance(module, imports).exports as unknown as Exports;
  const given = (channels: readonly Float32Array[]) =>
    channels.flatMap((channel) => {
      const at = exports.__wbindgen_malloc(channel.length * 4);
      new Float32Array(exports.memory.buffer, at, channel.length).set(channel);
      return [at, channel.length];
    });
  const side = (channels: readonly Float32Array[]) => (channels.length === 1 ? 'mono' : 'stereo');
  return {
    /** In LUFS. */
    integrated: (channels: readonly Float32Array[], rateHz: number) =>
      exports[`ebur128_integrated_${side(channels)}`](rateHz, ...given(channels)),
    /** In dBTP. */
    truePeak: (channels: readonly Float32Array[], rateHz: number) =>
      exports[`ebur128_true_peak_${side(channels)}`](rateHz, ...given(channels)),
  };
}
