import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Mounts a disk of two megabytes. @throws where mounting is not allowed. */
export function mountSmallDisk(at: string): void {
  mkdirSync(at);
  execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=2m', 'tmpfs', at], { stdio: 'ignore' });
}

/** What lies on a disk can be read from here on, and nothing else. */
export function makeReadOnly(at: string): void {
  execFileSync('mount', ['-o', 'remount,ro', at], { stdio: 'ignore' });
}

export function unmount(at: string): void {
  execFileSync('umount', [at]);
}

/** Whether small disks can be mounted here. */
function canMount(): boolean {
  const at = mkdtempSync(join(tmpdir(), 'bijou-disk-'));
  try {
    mountSmallDisk(join(at, 'disk'));
    unmount(join(at, 'disk'));
    return true;
  } catch {
    return false;
  } finally {
    rmSync(at, { recursive: true, force: true });
  }
}

/** A test on a disk that fills up; where mounting is not allowed it is skipped, and counted as skipped. */
export const onSmallDisk = canMount() ? test : test.skip;
