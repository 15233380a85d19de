import { test } from '@playwright/test';

/** Where the running test puts a file of its own; the next run takes it away. */
export function place(...parts: string[]): string {
  return test.info().outputPath(...parts);
}
