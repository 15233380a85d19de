import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { readFile, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { briefById } from '@/core/brief/catalogue';
import { BijouError } from '@/core/errors';
import { groupBy } from '@/core/group';
import { MOST_ICON_BYTES } from '@/core/pack/icon/check';
import type { PartInput } from '@/core/pack/input';
import { needsBytes } from '@/core/pack/part';
import { packPlan, type PackPlan } from '@/core/pack/plan';
import { partFiles } from '@/server/services/partFiles';
import type { ReadOnlyBijou } from '@/server/readOnly';
import type { BuildResult } from '../build/results';
import type { PackOptions } from './options';

/** A file of a pack, and where its bytes are. */
export interface PlacedFile {
  path: string;
  kind: 'sound' | 'text' | 'icon';
  briefId: string;
  sha256: string;
  bytes: number;
  content: Uint8Array | { file: string };
}

/** A pack as it would be of what was built. */
export interface PlannedPack extends Pick<PackPlan, 'troubles'> {
  title: string;
  /** In the order of their paths. */
  files: PlacedFile[];
}

/**
 * Lays out a pack of files that have been built.
 * @param work The folder in which they lie.
 * @throws not-found, not-allowed, too-large
 */
export async function plannedPack(
  bijou: ReadOnlyBijou,
  projectId: number,
  { brief: ids, title, icon: iconFile }: PackOptions,
  results: readonly BuildResult[],
  work: string,
): Promise<PlannedPack> {
  const catalogue = bijou.briefs(projectId);
  const project = bijou.db.projects.byId(projectId)!.name;
  const wanted = new Set(ids);
  const icon = iconFile === undefined ? null : await iconOf(iconFile);
  const built = new Map(
    results.flatMap((one) => (isMade(one) ? [[keyOf(one.entry), one] as const] : [])),
  );
  const places = new Map(
    results.flatMap(({ path, sha256 }) => (sha256 ? [[sha256, join(work, path)] as const] : [])),
  );
  const cells = groupBy(
    bijou.cells.made(projectId, wanted),
    ({ assignment }) => assignment.briefId,
  );
  const inputs = [...wanted].map((id): PartInput => {
    const brief = briefById(catalogue, id);
    const stored = bijou.db.packSettings.of(projectId, id);
    const given = icon && brief.layout?.icon ? { sha256: '', bytes: icon.length } : stored.icon;
    return {
      brief,
      project,
      settings: { ...stored, ...(title !== undefined && { title }), icon: given },
      files: (cells.get(id) ?? []).flatMap((cell) =>
        partFiles(bijou.db, cell, ({ assignment }, fileId) => {
          const { sha256, facts } = built.get(keyOf({ assignment, fileId })) ?? {};
          return sha256 && facts ? { sha256, facts } : null;
        }),
      ),
      icon: icon ?? (stored.icon ? bytesAt(bijou.store.path(stored.icon.sha256)) : null),
      bytesOf: (sha256) =>
        (needsBytes(brief) ? bytesAt(places.get(sha256)!) : null) ?? new Uint8Array(),
    };
  });
  const { entries, troubles } = packPlan(inputs);
  return {
    title: title ?? (inputs.length === 1 ? inputs[0]!.settings.title : undefined) ?? project,
    troubles,
    files: entries.map(({ path, kind, briefId, bytes, sha256, content }) => ({
      ...{ path, kind, briefId, bytes },
      sha256: content ? createHash('sha256').update(content).digest('hex') : sha256!,
      content: content ?? { file: places.get(sha256!)! },
    })),
  };
}

function isMade({ state }: BuildResult): boolean {
  return state === 'built' || state === 'cached' || state === 'unchanged';
}

function keyOf({ assignment, fileId }: { assignment: { id: number }; fileId: string }): string {
  return `${assignment.id} ${fileId}`;
}

function bytesAt(path: string): Uint8Array | null {
  try {
    return readFileSync(path);
  } catch {
    return null;
  }
}

async function iconOf(path: string): Promise<Uint8Array> {
  const found = await stat(path).catch(() => null);
  if (!found?.isFile()) {
    throw new BijouError('not-found', `There is no icon at "${path}".`, 'Check the name.');
  }
  if (found.size > MOST_ICON_BYTES) {
    throw new BijouError('too-large', `"${path}" is too large for an icon.`, 'Save it smaller.');
  }
  return readFile(path);
}
