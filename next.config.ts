import type { NextConfig } from 'next';

const config: NextConfig = {
  // Native and worker-owning packages must be loaded by Node, not rolled into a server chunk.
  serverExternalPackages: ['better-sqlite3', 'piscina'],
  poweredByHeader: false,
  devIndicators: false,
};

export default config;
