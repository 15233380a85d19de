import type { ByteSource } from '../bytes/source';
import { plural } from '../words';
import { Checking, objectionOf } from './checks';
import { hosts } from './index';
import type { HostKind, OpenSound, Rehearsal } from './kind';
import type { FoundPack } from './pack';
import { foundInZip } from './zip';

/** A pack in a host: what it looked at, what it took, and what it wrote down meanwhile. */
export interface Rehearsed<Scene = unknown> extends Rehearsal {
  log: readonly { atMs: number; text: string }[];
  open: readonly OpenSound[];
  scene: Scene | null;
}

/**
 * Brings a pack to a host, which looks at every file of it. Whatever the pack is, an answer comes: what is wrong with
 * it is in the checks.
 */
export async function rehearse<Scene>(
  host: HostKind<Scene>,
  pack: FoundPack,
  checking = startedChecking(),
): Promise<Rehearsed<Scene>> {
  checking.say(`Opened ${pack.name}: ${plural(pack.files.length, 'file')}.`);
  const other = host.isMeant(pack) ? undefined : hosts.find((one) => one.isMeant(pack));
  if (other) {
    checking.refuse(pack.name, {
      rule: 'host',
      asked: `a pack for the ${host.title.toLowerCase()}`,
      found: `a pack for the ${other.title.toLowerCase()}`,
      cure: `Bring it to the ${other.title.toLowerCase()}.`,
    });
    return result(host, checking, null);
  }
  const taken = await host.take(pack, checking);
  return result(host, checking, taken);
}

/** Brings a zip to a host: one that cannot be read is refused. */
export async function rehearseZip<Scene>(
  host: HostKind<Scene>,
  name: string,
  zip: ByteSource,
  of: (pack: FoundPack) => FoundPack = (pack) => pack,
): Promise<Rehearsed<Scene>> {
  const checking = startedChecking();
  const pack = await foundInZip(name, zip).catch((error: unknown) => {
    checking.refuse(name, objectionOf(error, 'zip', 'a zip that can be read'));
    return null;
  });
  return pack ? rehearse(host, of(pack), checking) : result(host, checking, null);
}

function startedChecking(): Checking {
  const begun = performance.now();
  return new Checking(() => performance.now() - begun);
}

function result<Scene>(
  { id, version }: HostKind<Scene>,
  checking: Checking,
  taken: { sounds: OpenSound[]; scene: Scene } | null,
): Rehearsed<Scene> {
  const open = taken?.sounds ?? [];
  const accepted = checking.isAccepted;
  checking.say(
    accepted ? `Ready: ${plural(open.length, 'sound')}.` : 'It is not accepted as it is.',
  );
  const { checks, log } = checking;
  const sounds = open.map(({ sound }) => sound);
  return {
    host: id,
    hostVersion: version,
    accepted,
    checks,
    sounds,
    log,
    open,
    scene: taken?.scene ?? null,
  };
}
