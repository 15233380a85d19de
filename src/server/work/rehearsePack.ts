import { hostById } from '@/core/host';
import type { Rehearsal } from '@/core/host/kind';
import { heldFile } from '@/core/host/pack';
import { rehearse } from '@/core/host/rehearse';
import { foundFile } from '../files/foundPacks';
import type { RehearseTask } from './tasks';

/** Brings files that lie in the data folder to a host, as the pack that they would be. */
export async function rehearsePack({ hostId, name, files }: RehearseTask): Promise<Rehearsal> {
  const found = await Promise.all(
    files.map(({ path, content }) =>
      typeof content === 'string' ? foundFile(content, path) : heldFile(path, content),
    ),
  );
  const result = await rehearse(hostById(hostId), { name, form: 'zip', files: found });
  const { host, hostVersion, accepted, checks, sounds } = result;
  return { host, hostVersion, accepted, checks, sounds };
}
