'use client';

import { useQuery } from '@tanstack/react-query';
import { Wrench } from 'lucide-react';
import Link from 'next/link';
import type { Check } from '@/core/host/checks';
import type { HostKind } from '@/core/host/kind';
import type { PackDetails } from '@/wire';
import { call } from '../shared/api';
import { useProject } from '../shared/project';
import { mendFor, soundOf, waysTo } from './causes';
import { useMending } from './mending';
import type { PackPart } from './packs';

/** The ways to what causes a refusal, and one press that mends it where that can be told. */
export function Cures({ host, check, part }: { host: HostKind; check: Check; part: PackPart }) {
  const { project, cells } = useProject();
  const { mend, at } = useMending();
  const { id } = part.pack;
  const { data: details } = useQuery({
    queryKey: ['pack', project.id, id, 'list'],
    queryFn: () => call<PackDetails>(`packs/${id}`),
    staleTime: Infinity,
    retry: false,
  });
  const { data: fillings = [] } = useQuery({
    queryKey: ['slots by name', project.id, part.brief.id, id],
    queryFn: () =>
      call<{ path: string; soundId: number | null }[]>(
        `projects/${project.id}/layouts/${part.brief.id}/slots`,
      ),
    enabled: check.rule === 'slot',
    retry: false,
  });
  const ways = waysTo(check, part, (path) => soundOf(details?.list, part, path));
  const soundIds = cells
    .filter(({ briefId }) => briefId === part.brief.id)
    .map(({ soundId }) => soundId);
  const offered = mendFor(host, check, part, project.id, { fillings, soundIds });
  return (
    <p className="mt-0.5 flex flex-wrap items-center gap-x-3 gap-y-1 pl-5 text-xs">
      {offered && (
        <button
          className="btn btn-primary btn-xs"
          disabled={at !== null}
          title="Mends it, makes the pack again with what has to be built for it, and loads it here"
          onClick={() => void mend(offered, host.id)}
        >
          <Wrench size={12} aria-hidden /> {offered.text}, pack and reload
        </button>
      )}
      {ways.map(({ path, text }) => (
        <Link
          key={path}
          className="link link-primary"
          href={`/p/${project.id}/${path}`}
          prefetch={false}
        >
          {text}
        </Link>
      ))}
    </p>
  );
}
