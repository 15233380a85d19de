import { BijouError } from '@/core/errors';
import { pathInPack } from '@/core/pack/layout';
import { safeFileName } from '@/core/pack/names';
import type { BuildDetails, BuildSummary, BuiltFile } from '@/wire';
import type { Context } from '../context';
import type { BuildRow } from '../db/packs';
import { zipStream } from '../files/zipping';

/** Earlier builds: what was in them, and having them again. */
export function buildService({ db, store }: Pick<Context, 'db' | 'store'>) {
  function filesOf(buildId: number): BuiltFile[] {
    return db.packs.outputsOf(buildId).flatMap((row): BuiltFile[] => {
      const encoding = db.encodings.byId(row.encodingId);
      const sound = db.sounds.byId(row.soundId);
      if (!encoding || !sound) return [];
      const facts = encoding.verification?.facts;
      return [
        {
          outputId: row.id,
          encodingId: row.encodingId,
          soundId: row.soundId,
          soundName: sound.name,
          briefId: row.briefId,
          fileId: row.fileId,
          path: pathInPack(row.briefId, row.path ?? `${safeFileName(sound.name)}.${row.fileId}`),
          state: encoding.state,
          error: encoding.error,
          sha256: encoding.sha256,
          bytes: facts?.bytes ?? null,
          sourceBytes: sound.bytes,
          seconds: facts?.seconds ?? null,
        },
      ];
    });
  }

  function summary({ id, createdAt }: BuildRow): BuildSummary {
    const { files, open, ...sums } = db.packs.sums(id);
    const ordered = db.orders.filesOf(id);
    return { ...{ id, createdAt }, ...sums, files: files + ordered, open: open + ordered };
  }

  /** The builds of a project that are kept, newest first. */
  function list(projectId: number): BuildSummary[] {
    return db.packs.builds(projectId).map(summary);
  }

  /** @throws not-found */
  function details(projectId: number, id: number): BuildDetails {
    const row = rowOf(projectId, id);
    return { ...summary(row), outputs: filesOf(row.id) };
  }

  /** The files of an earlier build as a zip, in the folders of their destinations. @throws not-found */
  function zip(projectId: number, id: number) {
    const row = rowOf(projectId, id);
    const files = filesOf(row.id).flatMap(({ sha256, path }) => (sha256 ? [{ sha256, path }] : []));
    if (files.length === 0) {
      throw new BijouError(
        'not-found',
        'Nothing of that build is finished.',
        'Wait, or build again.',
      );
    }
    const project = db.projects.byId(projectId);
    return {
      name: `${safeFileName(project?.name ?? 'build')} build ${id}.zip`,
      stream: zipStream(entries(files)),
    };
  }

  async function* entries(files: readonly { sha256: string; path: string }[]) {
    // What is cleared away meanwhile waits until it was read.
    const letGo = store.derived.hold(files.map(({ sha256 }) => sha256));
    try {
      for (const { path, sha256 } of files) {
        yield { path, content: { file: store.path(sha256) } };
      }
    } finally {
      letGo();
    }
  }

  function rowOf(projectId: number, id: number): BuildRow {
    const row = db.packs.buildById(id);
    if (row?.projectId === projectId) return row;
    throw new BijouError(
      'not-found',
      'That build is not kept any more.',
      'The newest twenty of a project are.',
    );
  }

  return { list, details, zip };
}
