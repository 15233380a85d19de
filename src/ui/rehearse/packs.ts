import type { Brief } from '@/core/brief/schema';
import { folderForHost } from '@/core/pack/layout';
import type { PackSummary } from '@/wire';
import type { Brought } from '@/player/host/messages';

/** A part of a pack of the project that a host is to take. */
export interface PackPart {
  pack: PackSummary;
  brief: Brief;
  /** Where it lies in the pack; empty for the root. */
  folder: string;
}

/** What of the project's packs is meant for a host, newest first. */
export function partsFor(
  hostId: string,
  packs: readonly PackSummary[],
  briefs: readonly Brief[],
): PackPart[] {
  const mine = briefs.filter(({ host }) => host === hostId);
  return packs
    .filter(({ state }) => state === 'done')
    .flatMap((pack) =>
      mine
        .filter(({ id }) => pack.briefs.includes(id))
        .map((brief) => ({
          pack,
          brief,
          folder: folderForHost(brief, pack.briefs.length === 1),
        })),
    );
}

/** A pack of the project as a host is given it: the zip that leaves the house, and nothing else. */
export function broughtPart({ pack, folder }: PackPart): Brought & { kind: 'address' } {
  const name = `pack ${pack.id}${folder === '' ? '' : `, ${folder}`}`;
  return { kind: 'address', name, address: `/api/packs/${pack.id}/zip`, folder };
}

/** Files that were dropped or chosen, as a pack: a zip by itself, else a folder without the name that all have. */
export function broughtFiles(
  files: readonly { path: string; file: File }[],
): Exclude<Brought, { kind: 'address' }> | null {
  const [first] = files;
  if (!first) return null;
  if (files.length === 1 && /\.zip$/i.test(first.path)) {
    return { kind: 'zip', name: first.file.name, zip: first.file };
  }
  const [root = ''] = first.path.split('/');
  const isOneFolder = files.every(({ path }) => path.startsWith(`${root}/`));
  return {
    kind: 'folder',
    name: isOneFolder ? root : 'what was dropped',
    files: files.map(({ path, file }) => ({
      path: isOneFolder ? path.slice(root.length + 1) : path,
      file,
    })),
  };
}

/** The address of a host, with a pack of the project in it. */
export function hostAddress(projectId: number, hostId: string, part?: PackPart): string {
  const path = `/p/${projectId}/rehearse/${hostId}`;
  if (!part) return path;
  const { pack, brief } = part;
  const more = pack.briefs.length === 1 ? '' : `&brief=${encodeURIComponent(brief.id)}`;
  return `${path}?pack=${pack.id}${more}`;
}
