'use client';

import {
  ArrowDown,
  ArrowUp,
  Columns3,
  Download,
  Ear,
  FolderPlus,
  Layers,
  PieChart,
  Plus,
  Search,
  X,
} from 'lucide-react';
import type { RefObject } from 'react';
import { tableColumns } from '@/core/collect/columns';
import { tableCsv, tableRecords } from '@/core/collect/table';
import { Popover } from '../shared/Popover';
import { plural } from '../shared/format';
import { useIntake } from './intake/DropAnywhere';
import { CleanUp } from './CleanUp';
import { filterText } from './table/filters';
import { groupings, nudged, type Layout } from './table/layout';
import { shownColumns } from './table/layout';
import type { Entry } from './table/useSoundTable';

const titles = new Map(tableColumns.map((column) => [column.id, column.title]));

/** Bringing in, finding, and how the table is seen. */
export function Toolbar({
  layout,
  onLayout,
  search,
  onSearch,
  searchField,
  onToList,
  listed,
}: {
  layout: Layout;
  onLayout: (change: Partial<Layout>) => void;
  search: string;
  onSearch: (search: string) => void;
  searchField: RefObject<HTMLInputElement | null>;
  /** From the search field on to what it has found. */
  onToList: () => void;
  /** What is listed, in its order: what an export holds. */
  listed: readonly Entry[];
}) {
  return (
    <div className="mb-2 flex flex-wrap items-center gap-1.5">
      <label className="input input-sm bg-base-100 w-60">
        <Search size={14} aria-hidden className="text-soft" />
        <span className="sr-only">Search</span>
        <input
          ref={searchField}
          type="search"
          value={search}
          placeholder="Search names, tags, notes…  (/)"
          onChange={(event) => onSearch(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== 'Enter' && event.key !== 'ArrowDown') return;
            event.preventDefault();
            onToList();
          }}
        />
      </label>
      <button
        className={toggleClass(layout.hear)}
        aria-pressed={layout.hear}
        title="Hear a sound as soon as it is chosen (H)"
        onClick={() => onLayout({ hear: !layout.hear })}
      >
        <Ear size={14} aria-hidden /> Hear on choosing
      </button>
      <GroupBy layout={layout} onLayout={onLayout} />
      <button
        className={toggleClass(layout.sizes)}
        aria-pressed={layout.sizes}
        title="How the project's size divides among its sounds (B)"
        onClick={() => onLayout({ sizes: !layout.sizes })}
      >
        <PieChart size={14} aria-hidden /> Where the bytes are
      </button>
      <ColumnChooser layout={layout} onLayout={onLayout} />
      <Export listed={listed} />
      <CleanUp />
      <Filters layout={layout} onLayout={onLayout} />
    </div>
  );
}

function toggleClass(isOn: boolean): string {
  return `btn btn-sm ${isOn ? 'btn-primary' : 'btn-paper'}`;
}

interface Part {
  layout: Layout;
  onLayout: (change: Partial<Layout>) => void;
}

function GroupBy({ layout, onLayout }: Part) {
  return (
    <label className="btn btn-paper btn-sm gap-1 pr-1">
      <Layers size={14} aria-hidden />
      <span className="sr-only">Put in groups by</span>
      <select
        className="cursor-pointer bg-transparent"
        title="Put the list in groups"
        value={layout.groupBy ?? ''}
        onChange={(event) => onLayout({ groupBy: event.target.value || null })}
      >
        <option value="">One list</option>
        {groupings.map((id) => (
          <option key={id} value={id}>
            By {titles.get(id)?.toLowerCase()}
          </option>
        ))}
      </select>
    </label>
  );
}

function ColumnChooser({ layout, onLayout }: Part) {
  const { order, shown } = layout;
  const toggle = (id: string) =>
    onLayout({ shown: shown.includes(id) ? shown.filter((one) => one !== id) : [...shown, id] });
  const visible = shownColumns(layout);
  const nudge = (id: string, by: -1 | 1, label: string, Icon: typeof ArrowUp) => (
    <button
      className="hover:text-primary text-soft p-0.5 disabled:opacity-25"
      aria-label={`Move ${titles.get(id)} ${label}`}
      disabled={visible.at(by === -1 ? 0 : -1)?.id === id}
      onClick={() => onLayout({ order: nudged(layout, id, by) })}
    >
      <Icon size={13} />
    </button>
  );
  return (
    <Popover
      label="Columns"
      face={
        <>
          <Columns3 size={14} aria-hidden /> Columns
        </>
      }
      title="Which facts are shown, and in which order"
    >
      {() => (
        <div className="w-60">
          <ul>
            {order.map((id) => (
              <li key={id} className="flex items-center">
                <label className="flex min-w-0 flex-1 items-center gap-2 py-0.5">
                  <input
                    type="checkbox"
                    className="checkbox checkbox-xs"
                    checked={shown.includes(id)}
                    onChange={() => toggle(id)}
                  />
                  <span className="truncate">{titles.get(id)}</span>
                </label>
                {shown.includes(id) && nudge(id, -1, 'to the left', ArrowUp)}
                {shown.includes(id) && nudge(id, 1, 'to the right', ArrowDown)}
              </li>
            ))}
          </ul>
          <button
            className="btn btn-ghost btn-xs mt-2"
            onClick={() =>
              onLayout({
                order: tableColumns.map(({ id }) => id),
                shown: tableColumns.filter((column) => column.shown).map(({ id }) => id),
                widths: {},
              })
            }
          >
            As at first
          </button>
        </div>
      )}
    </Popover>
  );
}

function Export({ listed }: { listed: readonly Entry[] }) {
  const rows = listed.filter(({ sound }) => sound.facts).map(({ row }) => row);
  const save = (text: string, type: string, ending: string) => {
    const url = URL.createObjectURL(new Blob([text], { type }));
    const link = document.createElement('a');
    link.href = url;
    link.download = `sounds.${ending}`;
    link.click();
    URL.revokeObjectURL(url);
  };
  const button = (label: string, onClick: () => void) => (
    <button className="btn btn-paper btn-xs" disabled={rows.length === 0} onClick={onClick}>
      {label}
    </button>
  );
  return (
    <Popover
      label="Export the table"
      face={
        <>
          <Download size={14} aria-hidden /> Export
        </>
      }
    >
      {() => (
        <div className="w-56 space-y-2">
          <p className="text-soft">
            {plural(rows.length, 'listed sound')}, in this order, with every column there is.
          </p>
          <div className="flex gap-2">
            {button('CSV', () => save(tableCsv(rows), 'text/csv', 'csv'))}
            {button('JSON', () =>
              save(`${JSON.stringify(tableRecords(rows), null, 2)}\n`, 'application/json', 'json'),
            )}
          </div>
        </div>
      )}
    </Popover>
  );
}

/** What narrows the list, each with a way out. */
function Filters({ layout, onLayout }: Part) {
  const { filters } = layout;
  return tableColumns.flatMap((column) => {
    const filter = filters[column.id];
    if (!filter) return [];
    const { [column.id]: dropped, ...others } = filters;
    void dropped;
    return [
      <button
        key={column.id}
        className="border-primary text-primary inline-flex items-center gap-1 rounded-sm border px-1.5 text-xs leading-5"
        title="Take this filter away"
        onClick={() => onLayout({ filters: others })}
      >
        {filterText(column, filter)} <X size={12} aria-hidden />
      </button>,
    ];
  });
}

/** The buttons that bring files in. */
export function BringIn() {
  const { chooseFiles, chooseFolder } = useIntake();
  return (
    <div className="ml-auto flex gap-1.5 self-center">
      <button className="btn btn-paper btn-sm" onClick={chooseFolder}>
        <FolderPlus size={15} aria-hidden /> Bring in a folder
      </button>
      <button className="btn btn-primary btn-sm" onClick={chooseFiles}>
        <Plus size={15} aria-hidden /> Bring in files
      </button>
    </div>
  );
}
