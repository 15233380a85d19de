'use client';

import { Hammer, Plus, X } from 'lucide-react';
import { clippingChoices, monoChoices, type ChangedChoices } from '@/core/brief/choices';
import type { Cell } from '@/wire';
import { clippingNames, monoNames } from '../cell/Choices';
import { plural } from '../../shared/format';
import { Popover } from '../../shared/Popover';
import { useSending } from '../../shared/useSending';
import type { MatrixView } from './rows';
import { buildable } from './states';
import { placeOf, unmark, useMatrix, type Place } from './store';

/** What can be done with everything that is marked, or with the one cell that one is at. */
export function MarkedBar({
  view,
  onBuild,
}: {
  view: MatrixView;
  onBuild: (cells: readonly Cell[]) => void;
}) {
  const marked = useMatrix((state) => state.marked);
  const { sendPlaces, releasePlaces, choosePlaces, busy } = useSending();
  if (marked.size === 0) return null;
  const places = [...marked].map(placeOf);
  const cells = places.flatMap(({ soundId, briefId }) => view.cellAt(soundId, briefId) ?? []);
  const empty = places.filter(({ soundId, briefId }) => !view.cellAt(soundId, briefId));
  const ready = cells.filter(({ state }) => buildable.has(state));
  return (
    <div
      role="toolbar"
      aria-label="Marked cells"
      className="border-base-300 bg-base-100 mt-2 flex flex-wrap items-center gap-2 border px-3 py-1.5"
    >
      <span className="font-semibold">{plural(places.length, 'cell')} marked</span>
      <button
        className="btn btn-paper btn-xs"
        disabled={busy || empty.length === 0}
        onClick={() => void sendPlaces(empty)}
      >
        <Plus size={13} /> Send {empty.length > 0 && empty.length}
      </button>
      <button
        className="btn btn-paper btn-xs"
        disabled={busy || cells.length === 0}
        title="Do not send them there any more; what was chosen comes back with undo"
        onClick={() => void releasePlaces(cells)}
      >
        <X size={13} /> Release {cells.length > 0 && cells.length}
      </button>
      <Choose cells={cells} onChoose={(choices) => void choosePlaces(cells, choices)} />
      <button
        className="btn btn-paper btn-xs"
        disabled={ready.length === 0}
        onClick={() => onBuild(cells)}
      >
        <Hammer size={13} /> Build {ready.length > 0 && ready.length}
      </button>
      <button className="btn btn-ghost btn-xs ml-auto" onClick={unmark}>
        Mark none
      </button>
    </div>
  );
}

function Choose({
  cells,
  onChoose,
}: {
  cells: readonly Place[];
  onChoose: (choices: ChangedChoices) => void;
}) {
  return (
    <Popover
      label="Choose for marked cells"
      title="Choose the same for all of them"
      face="Choose…"
      className="btn btn-paper btn-xs"
      disabled={cells.length === 0}
    >
      {(close) => {
        const choice = (text: string, choices: ChangedChoices) => (
          <button
            key={text}
            className="btn btn-paper btn-xs"
            onClick={() => {
              onChoose(choices);
              close();
            }}
          >
            {text}
          </button>
        );
        return (
          <div className="w-72 space-y-2">
            <p className="text-xs font-semibold">Stereo to mono, where mono is wanted</p>
            <div className="flex flex-wrap gap-1">
              {monoChoices.map((mono) => choice(monoNames[mono], { mono }))}
            </div>
            <p className="text-xs font-semibold">What lies above full scale</p>
            <div className="flex flex-wrap gap-1">
              {clippingChoices.map((clipping) => choice(clippingNames[clipping], { clipping }))}
            </div>
            <p className="text-xs font-semibold">Where a loop is wanted and none is marked</p>
            <div className="flex flex-wrap gap-1">
              {choice('All of it repeats', { isWholeLoop: true })}
            </div>
            <p className="text-xs font-semibold">Anything</p>
            {choice('Take all choices back', noChoices)}
          </div>
        );
      }}
    </Popover>
  );
}

const noChoices: ChangedChoices = {
  mono: null,
  clipping: null,
  ceilingDbtp: null,
  levelBehind: null,
  isWholeLoop: null,
  rateHz: null,
  isMono: null,
  seconds: null,
  settings: null,
  name: null,
  prefix: null,
};
