'use client';

import Link from 'next/link';
import { hosts } from '@/core/host';
import type { HostKind } from '@/core/host/kind';
import { plural, shortWhen } from '../shared/format';
import { useProject } from '../shared/project';
import { usePacks } from '../pack/layout/asking';
import { hostAddress, partsFor } from './packs';
import { RehearseHead } from './RehearseHead';
import { scenes } from './scenes';

/** Every host, with the newest pack that is meant for it. */
export function RehearsePage() {
  return (
    <div className="px-6 py-4">
      <RehearseHead
        view=""
        about="Small stand-ins of destinations take the packs as they leave the house, and play them."
      />
      <ul className="grid gap-5 sm:grid-cols-2 xl:grid-cols-3">
        {hosts.map((host) => (
          <li key={host.id}>
            <Card host={host} />
          </li>
        ))}
      </ul>
    </div>
  );
}

function Card({ host }: { host: HostKind }) {
  const { project, briefs, rehearsals } = useProject();
  const packs = usePacks();
  const parts = packs ? partsFor(host.id, packs, briefs) : [];
  const { Thumb } = scenes[host.id]!;
  const [newest] = parts;
  const said = rehearsals.find(({ briefId }) => briefId === host.briefId)?.said;
  return (
    <Link
      href={hostAddress(project.id, host.id)}
      prefetch={false}
      className="border-base-300 bg-base-100 hover:border-primary block border"
    >
      <Thumb />
      <span className="block px-4 py-3">
        <span className="block font-serif text-xl">{host.title}</span>
        <span className="block">{host.about}</span>
        <span className="text-soft mt-1 block text-xs">
          {newest
            ? `${plural(parts.length, 'pack')} for it; the newest is pack ${newest.pack.id}, ${shortWhen(newest.pack.createdAt)}`
            : 'No pack for it yet; drop one there, from anywhere'}
        </span>
        {said && (
          <span
            className={`mt-1 block text-xs font-semibold ${said.accepted ? 'text-success' : 'text-error'}`}
          >
            {said.accepted
              ? `What was built last is accepted (${shortWhen(said.at)})`
              : `What was built last is refused for ${plural(said.refused, 'reason')}: ${said.first}`}
          </span>
        )}
      </span>
    </Link>
  );
}
