import { stat } from 'node:fs/promises';
import { basename } from 'node:path';
import { BijouError } from '@/core/errors';
import type { Check } from '@/core/host/checks';
import { hostById } from '@/core/host';
import { inFolder, type FoundPack } from '@/core/host/pack';
import { rehearse, rehearseZip, type Rehearsed } from '@/core/host/rehearse';
import { plural } from '@/core/words';
import { withFile } from '@/server/files/bytes';
import { foundFolder } from '@/server/files/foundPacks';
import { print } from '../output';
import { STATUS } from '../status';
import type { RehearseOptions } from './options';

/** Brings a zip or a folder to a host and says what it thinks of it. Answers the exit status. */
export async function runRehearse(pack: string, options: RehearseOptions): Promise<number> {
  const result = await rehearsed(pack, options);
  if (options.json) await print(JSON.stringify(rehearsalJson(result), null, 2));
  else await tell(pack, result);
  return result.accepted ? STATUS.done : STATUS.someFailed;
}

async function rehearsed(pack: string, { host: id, folder = '' }: RehearseOptions) {
  const host = hostById(id);
  const part = (found: FoundPack) => inFolder(found, folder);
  const found = await stat(pack).catch(() => null);
  if (found?.isDirectory()) return rehearse(host, part(await foundFolder(pack)));
  if (found?.isFile()) {
    return withFile(pack, (source) => rehearseZip(host, basename(pack), source, part));
  }
  throw new BijouError(
    'not-found',
    found ? `"${pack}" is no zip and no folder.` : `There is no pack "${pack}".`,
    'Name a zip, or the folder of one that was unpacked.',
  );
}

/** The stable JSON fields; see the README. */
function rehearsalJson({ host, hostVersion, accepted, checks, sounds }: Rehearsed) {
  return {
    host,
    hostVersion,
    accepted,
    checks: checks.map(({ file, rule, asked, found, verdict, cure }) => ({
      ...{ file, rule, asked, found, verdict },
      ...(cure !== undefined && { cure }),
    })),
    sounds: sounds.map(({ id, file, frames, seconds, loop }) => ({
      ...{ id, file, frames, seconds },
      ...(loop && { loop: { start: loop.startFrame, length: loop.endFrame - loop.startFrame } }),
    })),
  };
}

async function tell(pack: string, { accepted, checks, sounds, host }: Rehearsed): Promise<void> {
  for (const check of checks.filter(({ verdict }) => verdict !== 'met')) {
    await print(checkLine(check));
  }
  const met = checks.filter(({ verdict }) => verdict === 'met').length;
  const refused = checks.filter(({ verdict }) => verdict === 'refused').length;
  const verdict = accepted
    ? `is accepted by ${host}: ${plural(sounds.length, 'sound')}`
    : `is refused by ${host}: ${plural(refused, 'reason')}`;
  await print(`${pack} ${verdict}, ${plural(met, 'rule')} met.`);
}

/** One check of a host that is not met, in a line. */
export function checkLine({ file, rule, asked, found, verdict, cure }: Check): string {
  const sign = verdict === 'refused' ? 'refused' : 'warning';
  return `${sign}  ${file}: ${rule}: ${found}; asked: ${asked}. ${cure ?? ''}`.trimEnd();
}
