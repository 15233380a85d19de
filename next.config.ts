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
  // `npm test` looks at the types of everything, which Next would do once more for its part.
  typescript: { ignoreBuildErrors: true },
  poweredByHeader: false,
  devIndicators: false,
  // There are no pictures to be made smaller, and nobody shall have the server try.
  images: { unoptimized: true },
  // On every answer: what is sent as one thing is not taken for another, nor embedded by other sites.
  headers: () =>
    Promise.resolve([
      {
        source: '/:path*',
        headers: [
          { key: 'X-Content-Type-Options', value: 'nosniff' },
          { key: 'Cross-Origin-Resource-Policy', value: 'same-origin' },
          { key: 'Referrer-Policy', value: 'no-referrer' },
        ],
      },
      {
        // What looks into foreign packs may do that, ask this server for them, and nothing else.
        source: '/workers/:path*',
        headers: [
          {
            key: 'Content-Security-Policy',
            value: "default-src 'none'; script-src 'self' 'wasm-unsafe-eval'; connect-src 'self'",
          },
        ],
      },
    ]),
};

export default config;
