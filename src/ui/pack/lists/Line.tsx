'use client';

import { X } from 'lucide-react';
import Link from 'next/link';
import type { Brief } from '@/core/brief/schema';
import type { Cell, Sound } from '@/wire';
import { useLine } from '../../shared/lines';
import { MiddleCut } from '../../shared/MiddleCut';
import { useProject } from '../../shared/project';
import { useSending } from '../../shared/useSending';
import { LineChoices } from '../cell/Choices';
import { Findings } from '../cell/Findings';
import { Outputs } from '../cell/Outputs';

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
  const { release } = useSending();
  const line = useLine(cell);
  return (
    <div
      className={`border-base-300 bg-base-100 grid min-h-26 gap-x-6 gap-y-3 border border-t-0 px-4 py-3 lg:grid-cols-[13rem_minmax(0,1fr)_minmax(0,1.4fr)] ${
        isLast ? 'rounded-b-box' : ''
      }`}
    >
      <div className="min-w-0">
        <div className="flex items-start gap-1">
          <Link
            className="min-w-0 font-semibold hover:underline"
            href={`/p/${project.id}/shape/${sound.id}`}
            prefetch={false}
          >
            <MiddleCut text={sound.name} title={`Shape “${sound.name}”`} />
          </Link>
          <button
            className="btn btn-ghost btn-xs btn-square"
            aria-label={`Do not send ${sound.name} to ${brief.title}`}
            title="Do not send it here"
            onClick={() => void release([sound.id], brief)}
          >
            <X size={13} />
          </button>
        </div>
        {line && <LineChoices line={line} brief={brief} />}
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
