import { storedBrief } from '@/core/brief/catalogue';
import { BijouError } from '@/core/errors';
import { packChanges, PATCH_LIST, patchText, pathsInPatch } from '@/core/pack/changes';
import { safeFileName } from '@/core/pack/names';
import type { PackedFile } from '@/wire';
import type { Context } from '../context';
import { serveStored, type Asking } from '../files/serving';
import { zipStream, type ZippedFile } from '../files/zipping';
import type { PackingService } from './packing';

/** Handing out packs: as a zip, as what changed since an earlier one, file by file. */
export function packFileService(
  { db, store, briefs }: Context,
  { packById, filesOf }: PackingService,
) {
  /** A pack as a zip. The same pack is the same file, to the bit. @throws not-found, not-allowed */
  function zip(id: number) {
    return { name: nameOf(id, ''), stream: zipStream(entries(filesOf(id))) };
  }

  /** What of a pack is other than in an earlier one, as a zip with a list of it. @throws as `zip` */
  function patch(id: number, since: number) {
    const changes = packChanges(filesOf(since), filesOf(id));
    const wanted = pathsInPatch(changes);
    const files = filesOf(id).filter(({ path }) => wanted.has(path));
    const list = patchText(changes, { id: since, sha256: packById(since).digest! });
    return {
      name: nameOf(id, ` since ${since}`),
      stream: zipStream(entries(files, [{ path: PATCH_LIST, content: list }])),
    };
  }

  /** Opened one after the other while the zip is written; until its end nothing of it goes. */
  async function* entries(
    files: readonly PackedFile[],
    more: readonly ZippedFile[] = [],
  ): AsyncGenerator<ZippedFile> {
    const letGo = store.derived.hold(files.map(({ sha256 }) => sha256));
    try {
      yield* more;
      for (const { path, sha256 } of files) yield { path, content: { file: store.path(sha256) } };
    } finally {
      letGo();
    }
  }

  function nameOf(id: number, more: string): string {
    const { projectId, title, briefs: ids } = packById(id);
    const of = ids.length === 1 ? ` ${storedBrief(briefs(projectId), ids[0]!).id}` : '';
    return `${safeFileName(`${title}${of} ${id}${more}`)}.zip`;
  }

  /** Reads one file of a pack by its path in it, or a part of it. @throws not-found */
  async function file(id: number, path: string, asked: Asking) {
    const found = db.madePacks.file(packById(id).id, path);
    if (!found) {
      throw new BijouError('not-found', 'The pack has no such file.', 'See what is in the pack.');
    }
    const { sha256, mimeType } = found;
    const name = path.split('/').at(-1)!;
    return { name, mimeType, ...(await serveStored(store.path(sha256), sha256, asked)) };
  }

  return { zip, patch, file };
}
