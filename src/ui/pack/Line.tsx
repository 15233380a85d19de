'use client';

import { X } from 'lucide-react';
import Link from 'next/link';
import { storedBrief } from '@/core/brief';
import { monoChoices } from '@/core/brief/plan';
import type { PackLine, Sound } from '@/wire';
import { call } from '../shared/api';
import { useProject } from '../shared/project';
import { useAction } from '../shared/useAction';
import { Findings } from './Findings';
import { Outputs } from './Outputs';

const monoNames = { mix: 'Mix both', left: 'Keep left', right: 'Keep right' };

/** One sound on its way to one destination. */
export function Line({ line, sound }: { line: PackLine; sound: Sound }) {
  const { project } = useProject();
  const { run } = useAction();
  const { id: briefId, title } = storedBrief(line.assignment.briefId);
  const path = `sounds/${sound.id}/assignments/${briefId}`;
  const needsMono = line.findings.some(
    ({ requirement, verdict, found }) =>
      requirement === 'channels' && verdict !== 'met' && verdict !== 'cannot' && found === 'stereo',
  );
  return (
    <li
      id={`sound-${sound.id}`}
      className="border-base-300 grid gap-x-6 gap-y-3 px-4 py-3 not-first:border-t lg:grid-cols-[13rem_minmax(0,1fr)_minmax(0,1.4fr)]"
    >
      <div className="min-w-0">
        <div className="flex items-start gap-1">
          <Link
            className="min-w-0 truncate font-semibold hover:underline"
            href={`/p/${project.id}/shape/${sound.id}`}
            title={`Shape “${sound.name}”`}
          >
            {sound.name}
          </Link>
          <button
            className="btn btn-ghost btn-xs btn-square"
            aria-label={`Do not send ${sound.name} to ${title}`}
            title="Do not send it here"
            onClick={() => run(() => call(path, 'DELETE'))}
          >
            <X size={13} />
          </button>
        </div>
        {needsMono && (
          <label className="mt-1 flex flex-col">
            <span className="text-soft text-xs font-semibold">To mono</span>
            <select
              className="select select-sm w-40"
              value={line.assignment.choices.mono ?? (line.obstacle ? '' : 'mix')}
              onChange={(event) => run(() => call(path, 'PUT', { mono: event.target.value }))}
            >
              {line.obstacle && (
                <option value="" disabled>
                  Choose …
                </option>
              )}
              {monoChoices.map((choice) => (
                <option key={choice} value={choice}>
                  {monoNames[choice]}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
      <Findings line={line} />
      <Outputs line={line} sound={sound} />
    </li>
  );
}
