import type { NextConfig } from 'next';

const config: NextConfig = {
  // Native and worker-owning packages must be loaded by Node, not rolled into a server chunk.
  serverExternalPackages: [
    'better-sqlite3',
    'piscina',
    'mediabunny',
    '@mediabunny/aac-encoder',
    '@audio/decode-aac',
    '@wasm-audio-decoders/ogg-vorbis',
    'mpg123-decoder',
    'wasm-media-encoders',
  ],
  poweredByHeader: false,
  devIndicators: false,
};

export default config;
