import type { NextConfig } from 'next';

const config: NextConfig = {
  // Native and worker-owning packages must be loaded by Node, not rolled into a server chunk.
  serverExternalPackages: [
    'better-sqlite3',
    'piscina',
    'mediabunny',
    '@mediabunny/aac-encoder',
    '@audio/decode-aac',
    '@evan/opus',
    '@wasm-audio-decoders/flac',
    '@wasm-audio-decoders/ogg-vorbis',
    'libflacjs',
    'mpg123-decoder',
    'opus-decoder',
    'wasm-media-encoders',
  ],
  // Pages travel inside one machine: packing megabytes takes longer than sending them.
  compress: false,
  poweredByHeader: false,
  devIndicators: false,
};

export default config;
