'use client';

import { Hammer } from 'lucide-react';
import { clippingChoices } from '@/core/brief/choices';
import type { Brief, BriefFile } from '@/core/brief/schema';
import type { Cell } from '@/wire';
import { acceptedRates } from '@/core/brief/words';
import { call } from '../../shared/api';
import { either, formatName, layout, plural } from '../../shared/format';
import { useProject } from '../../shared/project';
import { useAction } from '../../shared/useAction';
import { useSending } from '../../shared/useSending';
import { isOwn } from '../briefs/own';
import { AddSound } from './AddSound';
import { clippingNames } from '../cell/Choices';
import { useBuild } from '../making';
import { buildable } from '../matrix/states';
import { ZipLink } from '../ZipLink';

/** One brief: what it takes, and what can be done with everything that goes to it. */
export function Destination({ brief, cells }: { brief: Brief; cells: readonly Cell[] }) {
  const { project } = useProject();
  const { build, busy } = useBuild();
  const isReady = cells.some(({ state }) => buildable.has(state));
  const isEmpty = cells.length === 0;
  return (
    <div
      className={`border-base-300 bg-base-100 border ${isEmpty ? 'rounded-box' : 'rounded-t-box'}`}
    >
      <header className="flex flex-wrap items-start gap-x-6 gap-y-2 px-4 py-3">
        <div className="min-w-0 flex-1 basis-96">
          <h2 className="font-serif text-xl">{brief.title}</h2>
          <p className="text-soft">{brief.purpose}</p>
          {brief.files.length > 0 && (
            <p className="mt-1">Takes {brief.files.map(requirement).join(', and ')}.</p>
          )}
          {brief.notes.length > 0 && (
            <details className="mt-1">
              <summary className="text-soft cursor-pointer text-xs">Good to know</summary>
              <ul className="mt-1 list-inside list-disc">
                {brief.notes.map((note) => (
                  <li key={note}>{note}</li>
                ))}
              </ul>
            </details>
          )}
        </div>
        <div className="flex flex-wrap items-center gap-2">
          {isOwn(brief) && cells.length === 0 && <Forget brief={brief} />}
          {brief.files.length > 0 && <AddSound brief={brief} cells={cells} />}
          <button
            className="btn btn-paper btn-sm"
            disabled={busy || !isReady}
            onClick={() => void build(cells)}
          >
            <Hammer size={15} /> Build
          </button>
          <ZipLink
            href={`/api/projects/${project.id}/pack?brief=${brief.id}`}
            label="All as zip"
            isReady={cells.some(({ finished }) => finished > 0)}
          />
        </div>
      </header>
      <Clipping brief={brief} cells={cells} />
      {isEmpty && (
        <p className="text-soft border-base-300 border-t px-4 py-4">No sound goes here yet.</p>
      )}
    </div>
  );
}

/** Takes a brief of one's own away again. */
function Forget({ brief }: { brief: Brief }) {
  const { project } = useProject();
  const { run, busy } = useAction();
  return (
    <button
      className="btn btn-ghost btn-sm"
      title={`Forget the brief “${brief.title}”, to which no sound goes`}
      disabled={busy}
      onClick={() => run(() => call(`projects/${project.id}/briefs/${brief.id}`, 'DELETE'))}
    >
      Forget it
    </button>
  );
}

/** One choice for all sounds that would clip here. */
function Clipping({ brief, cells }: { brief: Brief; cells: readonly Cell[] }) {
  const { choose, busy } = useSending();
  const loud = cells.filter(({ clips }) => clips).map(({ soundId }) => soundId);
  if (loud.length === 0) return null;
  return (
    <div
      role="status"
      className="border-base-300 flex flex-wrap items-center gap-x-3 gap-y-1 border-t px-4 py-2"
    >
      <p className="text-warning font-semibold">{plural(loud.length, 'sound')} would clip here.</p>
      <span className="flex flex-wrap gap-1.5">
        {clippingChoices.map((clipping) => (
          <button
            key={clipping}
            className="btn btn-paper btn-xs"
            disabled={busy}
            title="For all of them"
            onClick={() => void choose(loud, brief, { clipping })}
          >
            {clippingNames[clipping]}
          </button>
        ))}
      </span>
    </div>
  );
}

function requirement(file: BriefFile): string {
  return [
    formatName(file.container, file.codec),
    file.bitDepths && `${either(file.bitDepths.map(String))}-bit`,
    file.sampleRatesHz ? acceptedRates(file.sampleRatesHz) : 'any rate',
    file.channels ? either([...file.channels].sort().map(layout)) : 'any channels',
  ]
    .filter(Boolean)
    .join(', ');
}
