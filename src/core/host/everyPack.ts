import { pathProblem } from '../pack/paths';
import { count } from '../tradeNames';
import type { Checking } from './checks';
import { MOST_BYTES, MOST_FILES } from './limits';
import { isLitter, type FoundFile, type FoundPack } from './pack';

/** What rules about a whole pack are called. */
export const packRules = {
  host: 'made for this host',
  zip: 'a zip that can be read',
  size: 'size',
  path: 'paths',
  encoding: 'encoding of texts',
} as const;

/**
 * The files of a pack that a host may look at: what leads out of it, what is there twice and what nobody meant is
 * left alone. null where it is too much altogether.
 */
export function checkedFiles(pack: FoundPack, checking: Checking): FoundFile[] | null {
  const { name, files } = pack;
  const bytes = files.reduce((sum, file) => sum + file.bytes, 0);
  const asked = `at most ${count(MOST_FILES)} files with ${count(MOST_BYTES)} bytes`;
  const found = `${count(files.length)} files with ${count(bytes)} bytes`;
  if (files.length > MOST_FILES || bytes > MOST_BYTES) {
    checking.refuse(name, { rule: 'size', asked, found, cure: 'Leave out what is not needed.' });
    return null;
  }
  const seen = new Map<string, string>();
  return files.filter(({ path }) => {
    if (isLitter(path)) {
      const cure = 'Leave it out: it is a note of an operating system.';
      const fault = { rule: 'path', asked: 'files that are meant', found: 'a hidden file', cure };
      checking.warn(path, fault);
      return false;
    }
    const problem = pathProblem(path) ?? twin(seen, path);
    if (problem === null) return true;
    checking.refuse(path, {
      rule: 'path',
      asked: 'paths that lead to one place inside of the pack',
      found: problem.replace(/\.$/, ''),
      cure: 'Give it another name.',
    });
    return false;
  });
}

function twin(seen: Map<string, string>, path: string): string | null {
  const key = path.normalize('NFKC').toLowerCase();
  const other = seen.get(key);
  seen.set(key, path);
  if (other === undefined) return null;
  return other === path ? 'there twice' : `the same as “${other}” on many disks`;
}
