'use client';

import { X } from 'lucide-react';
import Link from 'next/link';
import { monoChoices } from '@/core/brief/plan';
import type { Brief } from '@/core/brief/schema';
import type { Cell, PackLine, Sound } from '@/wire';
import { call } from '../shared/api';
import { useLine } from '../shared/lines';
import { useProject } from '../shared/project';
import { useAction } from '../shared/useAction';
import { Findings } from './Findings';
import { Outputs } from './Outputs';

const monoNames = { mix: 'Mix both', left: 'Keep left', right: 'Keep right' };

/** One sound on its way to one destination. */
export function Line({
  brief,
  cell,
  sound,
  isLast,
}: {
  brief: Brief;
  cell: Cell;
  sound: Sound;
  isLast: boolean;
}) {
  const { project } = useProject();
  const { run } = useAction();
  const line = useLine(cell, sound.revision);
  const path = `sounds/${sound.id}/assignments/${brief.id}`;
  return (
    <div
      className={`border-base-300 bg-base-100 grid min-h-26 gap-x-6 gap-y-3 border border-t-0 px-4 py-3 lg:grid-cols-[13rem_minmax(0,1fr)_minmax(0,1.4fr)] ${
        isLast ? 'rounded-b-box' : ''
      }`}
    >
      <div className="min-w-0">
        <div className="flex items-start gap-1">
          <Link
            className="min-w-0 truncate font-semibold hover:underline"
            href={`/p/${project.id}/shape/${sound.id}`}
            prefetch={false}
            title={`Shape “${sound.name}”`}
          >
            {sound.name}
          </Link>
          <button
            className="btn btn-ghost btn-xs btn-square"
            aria-label={`Do not send ${sound.name} to ${brief.title}`}
            title="Do not send it here"
            onClick={() => run(() => call(path, 'DELETE'))}
          >
            <X size={13} />
          </button>
        </div>
        {line && <MonoChoice line={line} path={path} />}
      </div>
      {line && (
        <>
          <Findings line={line} />
          <Outputs line={line} brief={brief} sound={sound} />
        </>
      )}
    </div>
  );
}

/** How a stereo sound becomes mono, where the destination takes no other. */
function MonoChoice({ line, path }: { line: PackLine; path: string }) {
  const { run } = useAction();
  const needsMono = line.findings.some(
    ({ requirement, verdict, found }) =>
      requirement === 'channels' && verdict !== 'met' && verdict !== 'cannot' && found === 'stereo',
  );
  if (!needsMono) return null;
  return (
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
  );
}
