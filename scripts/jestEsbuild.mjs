import { transformSync } from 'esbuild';

/** Jest transform: strips types with esbuild and keeps ES modules, so codecs load as they do in Node. */
export default {
  process(source, path) {
    const { code } = transformSync(source, {
      loader: 'ts',
      format: 'esm',
      target: 'es2022',
      sourcefile: path,
      sourcemap: 'inline',
    });
    return { code };
  },
};
