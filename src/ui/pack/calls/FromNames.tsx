'use client';

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Brief } from '@/core/brief/schema';
import type { Call } from '@/core/pack/calls/calls';
import { callWays, type CallWay } from '@/core/pack/calls/fromNames';
import { call } from '../../shared/api';
import { Dialog } from '../../shared/Dialog';
import { plural } from '../../shared/format';
import { useProject } from '../../shared/project';
import { usePackVersion } from '../layout/asking';

const MOST_SHOWN = 200;

const explained: Record<CallWay, string> = {
  variants:
    'gull_1, gull_2 and gull_3 are three variants of gull: each time one of them is picked.',
  each: 'gull_1, gull_2 and gull_3 are three calls: the game says which is played.',
  folders: 'Everything in the group creatures is a variant of creatures.',
};

/** Calls as names and groups would make them, looked at before they are taken. */
export function FromNames({
  brief,
  isOpen,
  onClose,
  onTake,
}: {
  brief: Brief;
  isOpen: boolean;
  onClose: () => void;
  onTake: (calls: readonly Call[]) => void;
}) {
  const { project, sounds } = useProject();
  const version = usePackVersion();
  const [way, setWay] = useState<CallWay>(brief.layout?.calls?.way ?? 'variants');
  const { data } = useQuery({
    queryKey: ['proposed calls', project.id, brief.id, way, version],
    queryFn: () => call<Call[]>(`projects/${project.id}/layouts/${brief.id}/calls?way=${way}`),
    enabled: isOpen,
    placeholderData: keepPreviousData,
  });
  const calls = data ?? [];
  const name = (soundId: number) => sounds.find(({ id }) => id === soundId)?.name ?? '?';
  return (
    <Dialog title="Calls from names" isOpen={isOpen} onClose={onClose} width="max-w-2xl">
      <div className="mt-3 flex flex-wrap gap-1.5" role="group" aria-label="How calls are made">
        {(Object.keys(callWays) as CallWay[]).map((one) => (
          <button
            key={one}
            className="btn btn-paper btn-sm aria-pressed:border-primary aria-pressed:text-primary"
            aria-pressed={one === way}
            onClick={() => setWay(one)}
          >
            {callWays[one][0]!.toUpperCase() + callWays[one].slice(1)}
          </button>
        ))}
      </div>
      <p className="text-soft mt-2">{explained[way]}</p>
      <ul
        className="border-base-300 mt-3 max-h-72 overflow-y-auto border"
        tabIndex={0}
        aria-label="Calls that would be made"
      >
        {calls.slice(0, MOST_SHOWN).map(({ id, variants }) => (
          <li
            key={id}
            className="border-base-300 grid grid-cols-[minmax(0,1fr)_minmax(0,1.4fr)] gap-3 border-b px-3 py-1 last:border-0"
          >
            <span className="font-semibold break-all">{id}</span>
            <span className="text-soft">
              {variants.map(({ soundId }) => name(soundId)).join(', ')}
            </span>
          </li>
        ))}
        {calls.length > MOST_SHOWN && (
          <li className="text-soft px-3 py-1">and {calls.length - MOST_SHOWN} more</li>
        )}
      </ul>
      <p className="text-soft mt-2 text-xs">
        They take the place of the calls that are there. That can be undone.
      </p>
      <div className="modal-action mt-3">
        <button className="btn btn-ghost btn-sm" onClick={onClose}>
          Leave them
        </button>
        <button
          className="btn btn-primary btn-sm"
          disabled={calls.length === 0}
          onClick={() => onTake(calls)}
        >
          Take {plural(calls.length, 'call')}
        </button>
      </div>
    </Dialog>
  );
}
