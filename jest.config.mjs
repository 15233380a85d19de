/** Tests run in worker threads as they are: see docs/decisions/038-tests-run-plainly.md. */
export default {
  runner: 'jest-light-runner',
  roots: ['<rootDir>/tests'],
  testMatch: ['**/*.test.ts'],
  testPathIgnorePatterns: ['/tests/browser/'],
  extensionsToTreatAsEsm: ['.ts'],
  transform: {},
  // Both cores: left to itself, Jest keeps one of two for a watcher that is not there.
  maxWorkers: '100%',
};
