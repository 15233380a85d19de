import { briefById, type BriefCatalogue } from '@/core/brief/catalogue';
import { hostById } from '@/core/host';
import type { Check } from '@/core/host/checks';
import { heldFile, inFolder } from '@/core/host/pack';
import { rehearse } from '@/core/host/rehearse';
import { folderForHost } from '@/core/pack/layout';
import { foundFile } from '@/server/files/foundPacks';
import type { PackOptions } from './options';
import type { PlannedPack } from './plan';

/** What the host of a destination said of its part of a pack. */
export interface PackRehearsal {
  brief: string;
  host: string;
  accepted: boolean;
  /** What it refused, and why. */
  refused: Check[];
}

/** Brings the parts of a pack to the hosts that their briefs name. */
export async function rehearsalsOf(
  catalogue: BriefCatalogue,
  { brief: ids, out }: PackOptions,
  { files }: PlannedPack,
): Promise<PackRehearsal[]> {
  const wanted = [...new Set(ids)];
  const found = await Promise.all(
    files.map(({ path, content, sha256 }) =>
      content instanceof Uint8Array
        ? heldFile(path, content)
        : foundFile(content.file, path, sha256),
    ),
  );
  const rehearsals: PackRehearsal[] = [];
  for (const id of wanted) {
    const brief = briefById(catalogue, id);
    const { host } = brief;
    if (host === undefined) continue;
    const folder = folderForHost(brief, wanted.length === 1);
    const pack = inFolder({ name: out, form: 'zip', files: found }, folder);
    const { accepted, checks } = await rehearse(hostById(host), pack);
    const refused = checks.filter(({ verdict }) => verdict === 'refused');
    rehearsals.push({ brief: id, host, accepted, refused });
  }
  return rehearsals;
}
