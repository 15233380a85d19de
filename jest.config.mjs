export default {
  testEnvironment: 'node',
  roots: ['<rootDir>/tests'],
  testMatch: ['**/*.test.ts'],
  testPathIgnorePatterns: ['/tests/browser/'],
  extensionsToTreatAsEsm: ['.ts'],
  transform: { '\\.ts$': '<rootDir>/scripts/jestEsbuild.mjs' },
  moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' },
  // Codec modules and fast-check runs need more than Jest's five seconds on a busy machine.
  testTimeout: 60_000,
  // Both cores: left to itself, Jest keeps one of two for a watcher that is not there.
  maxWorkers: '100%',
};
