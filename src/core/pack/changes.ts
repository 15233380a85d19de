import { BijouError } from '../errors';

/** A file of a pack, as far as packs are held against each other. */
export interface KeptFile {
  path: string;
  sha256: string;
  bytes: number;
}

/** What differs between two packs. */
export interface PackChanges {
  added: KeptFile[];
  /** The same path, other bytes. */
  changed: KeptFile[];
  removed: KeptFile[];
  /** The same bytes under another path. */
  moved: (KeptFile & { from: string })[];
  same: number;
}

/** What of a pack is other than in an earlier one, each list in the order of its paths. */
export function packChanges(before: readonly KeptFile[], now: readonly KeptFile[]): PackChanges {
  const old = new Map(before.map((file) => [file.path, file]));
  const paths = new Set(now.map(({ path }) => path));
  const gone = before.filter(({ path }) => !paths.has(path));
  const bySha = new Map(gone.map((file) => [file.sha256, file]));
  const changes: PackChanges = { added: [], changed: [], removed: [], moved: [], same: 0 };
  const movedFrom = new Set<string>();
  for (const file of now) {
    const earlier = old.get(file.path);
    const elsewhere = earlier ? undefined : bySha.get(file.sha256);
    if (earlier?.sha256 === file.sha256) changes.same++;
    else if (earlier) changes.changed.push(file);
    else if (elsewhere && !movedFrom.has(elsewhere.path)) {
      movedFrom.add(elsewhere.path);
      changes.moved.push({ ...file, from: elsewhere.path });
    } else changes.added.push(file);
  }
  changes.removed = gone.filter(({ path }) => !movedFrom.has(path));
  return changes;
}

/** Where the list of a patch lies. */
export const PATCH_LIST = 'patch.json';

/** The files that a patch holds, beside its list. @throws not-allowed for a pack with a list of its own there */
export function pathsInPatch({ added, changed, moved }: PackChanges): Set<string> {
  const paths = new Set([...added, ...changed, ...moved].map(({ path }) => path));
  if (!paths.has(PATCH_LIST)) return paths;
  throw new BijouError(
    'not-allowed',
    `The pack has a ${PATCH_LIST} of its own, where the list of the patch belongs.`,
    'Take the whole pack.',
  );
}

/** The list that goes with a patch: what is in it, and what has to go. */
export function patchText(
  { added, changed, removed, moved, same }: PackChanges,
  since: { id: number | null; sha256: string },
): string {
  const listed = ({ path, sha256, bytes }: KeptFile) => ({ path, sha256, bytes });
  const list = {
    patch: 1,
    /** What it is laid over: the digest of that pack's list. */
    since: since.sha256,
    ...(since.id !== null && { pack: since.id }),
    added: [...added, ...moved].sort((a, b) => (a.path < b.path ? -1 : 1)).map(listed),
    changed: changed.map(listed),
    removed: [...removed.map(({ path }) => path), ...moved.map(({ from }) => from)].sort(),
    same,
  };
  return `${JSON.stringify(list, null, 2)}\n`;
}

/** What the digest of a pack is taken of: every file in the order of its path. */
export function listText(files: readonly KeptFile[]): string {
  return [...files]
    .sort((a, b) => (a.path < b.path ? -1 : 1))
    .map(({ path, sha256 }) => `${sha256}  ${path}\n`)
    .join('');
}
