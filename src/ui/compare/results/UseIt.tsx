'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import { plainCandidate } from '@/core/compare/candidates/candidate';
import type { CandidateRow } from '@/core/compare/rows';
import type { Brief, BriefFile } from '@/core/brief/schema';
import type { Trial } from '@/wire';
import { call } from '../../shared/api';
import { plural } from '../../shared/format';
import { Popover } from '../../shared/Popover';
import { useProject } from '../../shared/project';
import { useAction } from '../../shared/useAction';
import { useSending } from '../../shared/useSending';

type Row = CandidateRow<Trial>;

/** Takes a candidate for the sounds that it was tried on: at a destination that makes such files, or a new one. */
export function UseIt({ row }: { row: Row }) {
  return (
    <Popover
      label={`Use ${row.name}`}
      title="Take it for these sounds"
      face="Use…"
      className="btn btn-ghost btn-xs"
    >
      {(close) => <Where row={row} onDone={close} />}
    </Popover>
  );
}

function Where({ row, onDone }: { row: Row; onDone: () => void }) {
  const { briefs, cells } = useProject();
  const { choose, busy } = useSending();
  const ids = row.trials.flatMap(({ soundId, measured }) => (measured ? [soundId] : []));
  const fitting = briefs.flatMap((brief) => {
    const file = brief.files.find(({ writer }) => writer === row.candidate.writer);
    return file ? [{ brief, file }] : [];
  });
  const take = async (brief: Brief, file: BriefFile) => {
    const { rateHz, channels } = row.candidate;
    await choose(ids, brief, {
      settings: { [file.id]: numbersOf(row) },
      ...(rateHz !== undefined && { rateHz }),
      ...(channels === 'mix' && { isMono: true, mono: 'mix' }),
    });
    onDone();
  };
  const there = (briefId: string) =>
    cells.filter((cell) => cell.briefId === briefId && ids.includes(cell.soundId)).length;
  return (
    <div className="w-80">
      <p className="text-soft mb-1 text-xs">For {plural(ids.length, 'sound')}, at</p>
      <ul>
        {fitting.map(({ brief, file }) => (
          <li key={brief.id}>
            <button
              className="hover:bg-base-200 w-full rounded px-2 py-1 text-left"
              disabled={busy}
              onClick={() => void take(brief, file)}
            >
              {brief.title}
              <span className="text-soft block text-xs">
                {there(brief.id) === ids.length
                  ? 'chosen there in place of what it has'
                  : `sent there, ${plural(ids.length - there(brief.id), 'sound')} anew`}
              </span>
            </button>
          </li>
        ))}
        {fitting.length === 0 && (
          <li className="text-soft px-2 py-1 text-xs">No destination makes such files yet.</li>
        )}
      </ul>
      <AsBrief row={row} ids={ids} onDone={onDone} />
    </div>
  );
}

/** Numbers by their names, as cells hold them. */
function numbersOf({ measured }: Row): Record<string, number> {
  const settings = (measured[0]?.settings ?? {}) as Record<string, unknown>;
  return Object.fromEntries(
    Object.entries(settings).filter(
      (entry): entry is [string, number] => typeof entry[1] === 'number',
    ),
  );
}

function AsBrief({ row, ids, onDone }: { row: Row; ids: readonly number[]; onDone: () => void }) {
  const { project } = useProject();
  const { run, busy } = useAction();
  const [name, setName] = useState(row.name);
  const keep = () =>
    run(async () => {
      const { writer, settings, rateHz, channels } = plainCandidate(row.candidate);
      const wish = { writer, settings, rateHz, channels };
      const path = `projects/${project.id}`;
      const brief = await call<Brief>(`${path}/briefs`, 'POST', { name, sounds: ids, wish });
      await call(`${path}/assignments`, 'POST', { sounds: ids, briefs: [brief.id] });
      toast.success(`${plural(ids.length, 'sound')} sent to “${brief.title}”.`);
      onDone();
    });
  return (
    <form
      className="border-base-300 mt-2 flex items-end gap-2 border-t pt-2"
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <label className="min-w-0 flex-1 text-xs">
        As a new destination
        <input
          className="input input-sm mt-1 w-full"
          maxLength={80}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <button className="btn btn-primary btn-sm" disabled={busy || name.trim() === ''}>
        Send
      </button>
    </form>
  );
}
