'use client';

import { Hammer } from 'lucide-react';
import type { Brief, BriefFile } from '@/core/brief/schema';
import type { PackLine, Sound } from '@/wire';
import { call } from '../shared/api';
import { formatName, kilohertz, layout } from '../shared/format';
import { useProject } from '../shared/project';
import { useAction } from '../shared/useAction';
import { missingFiles } from '../frame/stations';
import { Line } from './Line';
import { ZipLink } from './ZipLink';

/** One brief: what it takes, which sounds go to it, and the files that were made for it. */
export function Destination({
  brief,
  lines,
  sounds,
}: {
  brief: Brief;
  lines: PackLine[];
  sounds: readonly Sound[];
}) {
  const { project } = useProject();
  const { run, busy } = useAction();
  const assigned = new Set(lines.map(({ assignment }) => assignment.soundId));
  const free = sounds.filter(({ id }) => !assigned.has(id));
  const buildable = lines.filter((line) => line.obstacle === null && missingFiles(line).length > 0);
  const finished = lines.some(({ outputs }) =>
    outputs.some((o) => o.state === 'done' && o.upToDate),
  );
  return (
    <section
      id={brief.id}
      aria-label={brief.title}
      className="border-base-300 bg-base-100 rounded-box border"
    >
      <header className="border-base-300 flex flex-wrap items-start gap-x-6 gap-y-2 border-b px-4 py-3">
        <div className="min-w-0 flex-1 basis-96">
          <h2 className="font-serif text-xl">{brief.title}</h2>
          <p className="text-soft">{brief.purpose}</p>
          <p className="mt-1">Takes {brief.files.map(requirement).join(', and ')}.</p>
          <details className="mt-1">
            <summary className="text-soft cursor-pointer text-xs">Good to know</summary>
            <ul className="mt-1 list-inside list-disc">
              {brief.notes.map((note) => (
                <li key={note}>{note}</li>
              ))}
            </ul>
          </details>
        </div>
        <div className="flex flex-wrap items-center gap-2">
          <select
            className="select select-sm w-44"
            aria-label={`Add a sound to ${brief.title}`}
            value=""
            disabled={free.length === 0}
            onChange={(event) => {
              const id = event.target.value;
              void run(() => call(`sounds/${id}/assignments/${brief.id}`, 'PUT', {}));
            }}
          >
            <option value="">{free.length === 0 ? 'All sounds are here' : 'Add a sound …'}</option>
            {free.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
          <button
            className="btn btn-paper btn-sm"
            disabled={busy || buildable.length === 0}
            onClick={() =>
              run(() =>
                call(`projects/${project.id}/builds`, 'POST', {
                  assignments: buildable.map(({ assignment }) => assignment.id),
                }),
              )
            }
          >
            <Hammer size={15} /> Build
          </button>
          <ZipLink
            href={`/api/projects/${project.id}/pack?brief=${brief.id}`}
            label="All as zip"
            isReady={finished}
          />
        </div>
      </header>
      {lines.length === 0 ? (
        <p className="text-soft px-4 py-4">No sound goes here yet.</p>
      ) : (
        <ul>
          {lines.map((line) => {
            const sound = sounds.find(({ id }) => id === line.assignment.soundId);
            return sound ? <Line key={line.assignment.id} line={line} sound={sound} /> : null;
          })}
        </ul>
      )}
    </section>
  );
}

function requirement(file: BriefFile): string {
  return [
    formatName(file.container, file.codec),
    file.bitDepths?.map((bits) => `${bits}-bit`).join(' or '),
    file.sampleRatesHz.map(kilohertz).join(' or '),
    [...file.channels].sort().map(layout).join(' or '),
  ]
    .filter(Boolean)
    .join(', ');
}
