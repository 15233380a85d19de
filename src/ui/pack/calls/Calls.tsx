'use client';

import {
  DndContext,
  PointerSensor,
  useDroppable,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { Plus, RotateCcw, Wand2 } from 'lucide-react';
import { useMemo, useState } from 'react';
import type { Brief } from '@/core/brief/schema';
import { groupBy } from '@/core/group';
import { plainCall, type Call } from '@/core/pack/calls/calls';
import type { PackTrouble } from '@/core/pack/troubles';
import type { PackPart } from '@/wire';
import { plural } from '../../shared/format';
import { useProject } from '../../shared/project';
import { CallList } from './CallList';
import { FromNames } from './FromNames';
import { SoundShelf } from './SoundShelf';
import { useCalls } from './useCalls';

/** Dropping a sound here makes a call of it. */
const NEW_CALL = 'new-call';

/** What a game plays by which id: calls with their variants. */
export function Calls({
  brief,
  part,
  troubles,
}: {
  brief: Brief;
  part: PackPart;
  troubles: readonly PackTrouble[];
}) {
  const { sounds } = useProject();
  const { calls, save, edit } = useCalls(brief.id, part.calls);
  const [search, setSearch] = useState('');
  const [isProposing, setProposing] = useState(false);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const problems = useMemo(
    () =>
      groupBy(
        troubles.filter(({ about, call }) => about === 'call' && call !== undefined),
        ({ call }) => call!,
      ),
    [troubles],
  );
  const put = (index: number, next: Call | null, say?: string) =>
    edit((all) => all.flatMap((call, i) => (i === index ? (next ?? []) : call)), say);
  const add = (soundId: number | null) => {
    const sound = sounds.find(({ id }) => id === soundId);
    const taken = new Set(calls.map(({ id }) => id));
    const base = part.sounds
      .find((one) => one.soundId === soundId)
      ?.paths[0]?.replace(/\.[^./]*$/, '');
    let id = base ?? 'new';
    for (let n = 2; taken.has(id); n++) id = `${base ?? 'new'}_${n}`;
    const variants = sound ? [{ soundId: sound.id, odds: 1 }] : [];
    edit((all) => [...all, plainCall(id, variants, sound?.facts?.seconds ?? 0)]);
  };
  const drop = ({ active, over }: DragEndEvent) => {
    if (!over) return;
    const soundId = Number(active.id);
    if (over.id === NEW_CALL) return add(soundId);
    const index = Number(String(over.id).replace('call-', ''));
    const call = calls[index];
    if (!call || call.variants.some((one) => one.soundId === soundId)) return;
    put(index, { ...call, variants: [...call.variants, { soundId, odds: 1 }] });
  };
  return (
    <DndContext id={`calls-${brief.id}`} sensors={sensors} onDragEnd={drop}>
      <div className="mb-3 flex flex-wrap items-center gap-2">
        <h2 className="mr-2 font-serif text-2xl">Index of calls</h2>
        <span className="text-soft">
          {plural(calls.length, 'call')}
          {part.settings.calls ? '' : ', made of names'}
        </span>
        <span className="ml-auto flex flex-wrap gap-2">
          <input
            type="search"
            className="input input-sm w-44"
            placeholder="Search calls"
            aria-label="Search calls"
            value={search}
            onChange={(event) => setSearch(event.target.value)}
          />
          {part.settings.calls && (
            <button
              className="btn btn-ghost btn-sm"
              title="They follow the names of the sounds again"
              onClick={() => save(null, 'The calls follow the names again.')}
            >
              <RotateCcw size={14} /> Follow names
            </button>
          )}
          <button className="btn btn-paper btn-sm" onClick={() => setProposing(true)}>
            <Wand2 size={14} /> From names …
          </button>
          <button className="btn btn-paper btn-sm" onClick={() => add(null)}>
            <Plus size={14} /> Add a call
          </button>
        </span>
      </div>
      <div className="grid items-start gap-5 xl:grid-cols-[minmax(0,1fr)_14rem]">
        <div className="min-w-0">
          <CallList
            briefId={brief.id}
            calls={calls}
            search={search}
            problems={problems}
            onChange={put}
            onSplit={(index) =>
              edit((all) => split(all, index), 'A call for each in place of one with variants.')
            }
          />
          <NewCall />
        </div>
        <SoundShelf part={part} calls={calls} />
      </div>
      <FromNames
        brief={brief}
        isOpen={isProposing}
        onClose={() => setProposing(false)}
        onTake={(taken) => {
          setProposing(false);
          save(taken, 'Calls made of names.');
        }}
      />
    </DndContext>
  );
}

function NewCall() {
  const { setNodeRef, isOver } = useDroppable({ id: NEW_CALL });
  return (
    <p
      ref={setNodeRef}
      className={`text-soft mt-2 border-2 border-dashed px-4 py-2 text-center text-xs ${
        isOver ? 'border-primary bg-primary/10' : 'border-base-300'
      }`}
    >
      Drop a sound here for a call of its own
    </p>
  );
}

/** A call for each variant of one, with all else as it was. */
function split(calls: readonly Call[], index: number): Call[] {
  const taken = new Set(calls.map(({ id }) => id));
  return calls.flatMap((call, i) => {
    if (i !== index) return [call];
    taken.delete(call.id);
    return call.variants.map((variant, n): Call => {
      let id = `${call.id}_${n + 1}`;
      for (let more = 2; taken.has(id); more++) id = `${call.id}_${n + 1}_${more}`;
      taken.add(id);
      return { ...call, id, variants: [{ ...variant, odds: 1 }] };
    });
  });
}
