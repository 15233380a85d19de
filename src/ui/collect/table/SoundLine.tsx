'use client';

import { Play, StickyNote, X } from 'lucide-react';
import Link from 'next/link';
import { memo, type CSSProperties } from 'react';
import { cellText, type TableColumn } from '@/core/collect/columns';
import type { Sound } from '@/wire';
import { MiddleCut } from '../../shared/MiddleCut';
import { call } from '../../shared/api';
import { useProjectId } from '../../shared/project';
import { useWorkOn } from '../../shared/work';
import { useAction } from '../../shared/useAction';
import { Thumbnail } from '../../waveform/Thumbnail';
import { WorryChips } from '../order/WorryChips';
import type { Entry } from './useSoundTable';
import { plural } from '../../shared/format';

export interface LineActions {
  onChoose: (id: number, how: { toggle: boolean; extend: boolean }) => void;
  onChooseAll: (ids: number[]) => void;
  onPlay: (id: number, frame: number) => void;
}

/** One line of the list. */
export const SoundLine = memo(
  function SoundLine({
    entry,
    columns,
    worriesWidth,
    isChosen,
    isLead,
    place,
    rowIndex,
    actions,
  }: {
    entry: Entry;
    columns: readonly TableColumn[];
    /** Room for the chips of worries, in pixels. */
    worriesWidth: number;
    isChosen: boolean;
    isLead: boolean;
    place: CSSProperties;
    rowIndex: number;
    actions: LineActions;
  }) {
    const { sound } = entry;
    return (
      <div
        role="row"
        id={`sound-${sound.id}`}
        aria-selected={isChosen}
        aria-rowindex={rowIndex}
        className={`border-base-300 absolute inset-x-0 grid items-center border-b select-none ${
          isChosen ? 'bg-primary/10' : 'hover:bg-base-200/60'
        }`}
        style={place}
        onMouseDown={(event) => {
          // Shift would mark text.
          if (event.shiftKey) event.preventDefault();
        }}
        onClick={(event) =>
          actions.onChoose(sound.id, {
            toggle: event.ctrlKey || event.metaKey,
            extend: event.shiftKey,
          })
        }
      >
        <Listen sound={sound} isLead={isLead} onPlay={(frame) => actions.onPlay(sound.id, frame)} />
        {columns.map((column) => (
          <div
            key={column.id}
            role="gridcell"
            className={`min-w-0 px-2 ${column.kind === 'number' ? 'text-right whitespace-nowrap' : ''}`}
          >
            <Cell
              column={column}
              entry={entry}
              worriesWidth={worriesWidth}
              tabIndex={isLead ? 0 : -1}
            />
          </div>
        ))}
      </div>
    );
  },
  (a, b) =>
    a.entry === b.entry &&
    a.isChosen === b.isChosen &&
    a.isLead === b.isLead &&
    a.rowIndex === b.rowIndex &&
    a.actions === b.actions &&
    a.place.gridTemplateColumns === b.place.gridTemplateColumns &&
    a.place.transform === b.place.transform,
);

function Listen({
  sound,
  isLead,
  onPlay,
}: {
  sound: Sound;
  isLead: boolean;
  onPlay: (frame: number) => void;
}) {
  return (
    <div role="gridcell" className="flex items-center gap-1.5 pr-2 pl-2">
      {isLead && <span aria-hidden className="bg-primary absolute inset-y-0 left-0 w-1" />}
      <button
        className="btn btn-ghost btn-sm btn-square"
        aria-label={`Play ${sound.name}`}
        title="Play"
        tabIndex={isLead ? 0 : -1}
        disabled={!sound.facts}
        onClick={(event) => {
          event.stopPropagation();
          onPlay(0);
        }}
      >
        <Play size={14} fill="currentColor" />
      </button>
      <div className="min-w-0 flex-1">
        {sound.facts ? <Thumbnail sound={sound} onPlay={onPlay} /> : <Reading sound={sound} />}
      </div>
    </div>
  );
}

function Cell({
  column,
  entry: { sound, row },
  worriesWidth,
  tabIndex,
}: {
  column: TableColumn;
  entry: Entry;
  worriesWidth: number;
  /** Keys stop in the line that they lead. */
  tabIndex: 0 | -1;
}) {
  if (column.id === 'name') return <Name sound={sound} tabIndex={tabIndex} />;
  if (column.id === 'worries') {
    return <WorryChips sound={sound} width={worriesWidth} tabIndex={tabIndex} />;
  }
  if (column.id === 'format' && !sound.facts) {
    const what = sound.join
      ? sound.error
        ? 'not made'
        : 'being joined'
      : sound.error
        ? 'not read'
        : 'being read';
    return <span className="text-soft">{what}</span>;
  }
  if (column.id === 'usedIn' && row.usedIn.length === 0)
    return <span className="text-soft">—</span>;
  const text = cellText(column, row);
  const isLong = column.kind !== 'number';
  return (
    <span className={isLong ? 'block truncate' : ''} title={titleOf(column, row, text)}>
      {text}
    </span>
  );
}

/** Numbers that are shown rounded are told whole. */
function titleOf(column: TableColumn, row: Entry['row'], text: string): string | undefined {
  if (column.id === 'seconds' && row.facts) return plural(row.facts.frames, 'frame');
  if (column.id === 'bytes') return plural(row.bytes, 'byte');
  return column.kind === 'number' ? undefined : text;
}

function Name({ sound, tabIndex }: { sound: Sound; tabIndex: 0 | -1 }) {
  const projectId = useProjectId();
  return (
    <span className="flex items-center gap-1.5">
      <Link
        className="min-w-0 font-semibold hover:underline"
        href={`/p/${projectId}/shape/${sound.id}`}
        draggable={false}
        tabIndex={tabIndex}
        // Thousands of lines would fetch thousands of pages that nobody opens.
        prefetch={false}
        onClick={(event) => event.stopPropagation()}
      >
        <MiddleCut
          text={sound.name}
          title={`Shape “${sound.name}” (came in as ${sound.fileName})`}
        />
      </Link>
      {sound.note && (
        <span title={sound.note} className="text-soft shrink-0">
          <StickyNote size={13} aria-label={`Note: ${sound.note}`} role="img" />
        </span>
      )}
    </span>
  );
}

function Reading({ sound }: { sound: Sound }) {
  const { run } = useAction();
  const { progress, end } = useWorkOn('read', sound.id);
  if (sound.error && !sound.join) return <Stuck sound={sound} error={sound.error} />;
  return (
    <span className="flex items-center gap-1.5">
      {/* A bar that moves without saying anything would only keep the machine from reading. */}
      {progress === undefined ? (
        <span className="text-soft text-xs">waits to be read</span>
      ) : (
        <progress
          className="progress progress-primary"
          value={progress}
          max={1}
          aria-label={`Reading ${sound.name}`}
        />
      )}
      {!sound.join && (
        <button
          className="btn btn-ghost btn-xs btn-square"
          aria-label={`Do not read ${sound.name}`}
          title="Cancel this file alone"
          tabIndex={-1}
          onClick={(event) => {
            event.stopPropagation();
            void run(end);
          }}
        >
          <X size={13} />
        </button>
      )}
    </span>
  );
}

/** What was stored and could not be read for a reason that is not its own can be tried again. */
function Stuck({ sound, error }: { sound: Sound; error: NonNullable<Sound['error']> }) {
  const { run, busy } = useAction();
  return (
    <button
      className="btn btn-paper btn-xs"
      title={`It is stored, and could not be read: ${error.message} ${error.hint}`}
      disabled={busy}
      onClick={(event) => {
        event.stopPropagation();
        void run(() => call(`sounds/${sound.id}/again`, 'POST'));
      }}
    >
      Try to read it again
    </button>
  );
}
