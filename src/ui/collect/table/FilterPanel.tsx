import { useState } from 'react';
import type { TableColumn } from '@/core/collect/columns';
import { tidyFilter, type ColumnFilter } from './filters';

/** What a column can be filtered by: values to tick, a range to type, or a part of its text. */
export function FilterPanel({
  column,
  values,
  filter,
  onFilter,
  onDone,
}: {
  column: TableColumn;
  values: readonly { value: string; count: number }[];
  filter: ColumnFilter;
  onFilter: (filter: ColumnFilter | null) => void;
  onDone: () => void;
}) {
  const change = (part: Partial<ColumnFilter>) => onFilter(tidyFilter({ ...filter, ...part }));
  const toggle = (value: string) => {
    const chosen = filter.values ?? [];
    const isIn = chosen.includes(value);
    change({ values: isIn ? chosen.filter((one) => one !== value) : [...chosen, value] });
  };
  return (
    <form
      className="w-56 space-y-2"
      onSubmit={(event) => {
        event.preventDefault();
        onDone();
      }}
    >
      <p className="font-semibold">{column.title}</p>
      {values.length > 0 && (
        <ul className="max-h-48 overflow-y-auto">
          {values.map(({ value, count }) => (
            <li key={value}>
              <label className="flex items-center gap-2 py-0.5">
                <input
                  type="checkbox"
                  className="checkbox checkbox-xs"
                  checked={filter.values?.includes(value) ?? false}
                  onChange={() => toggle(value)}
                />
                <span className="truncate">{value || 'empty'}</span>
                <span className="text-soft ml-auto text-xs">{count}</span>
              </label>
            </li>
          ))}
        </ul>
      )}
      {column.kind === 'number' ? (
        <div className="flex gap-2">
          <Limit
            column={column}
            name="At least"
            value={filter.min}
            onValue={(min) => change({ min })}
          />
          <Limit
            column={column}
            name="At most"
            value={filter.max}
            onValue={(max) => change({ max })}
          />
        </div>
      ) : (
        <label className="block text-xs">
          Contains
          <input
            className="input input-sm w-full"
            value={filter.text ?? ''}
            autoFocus
            onChange={(event) => change({ text: event.target.value })}
          />
        </label>
      )}
      <div className="flex justify-end gap-2">
        <button type="button" className="btn btn-ghost btn-xs" onClick={() => onFilter(null)}>
          No filter
        </button>
        <button className="btn btn-paper btn-xs">Done</button>
      </div>
    </form>
  );
}

/** One end of a range, typed in the unit that the column shows. */
function Limit({
  column: { unit },
  name,
  value,
  onValue,
}: {
  column: TableColumn;
  name: string;
  value: number | undefined;
  onValue: (value: number | undefined) => void;
}) {
  const size = unit?.size ?? 1;
  const [typed, setTyped] = useState(value === undefined ? '' : String(value / size));
  const isWrong = typed.trim() !== '' && !Number.isFinite(Number(typed));
  return (
    <label className="block text-xs">
      {name} {unit && <span className="text-soft">{unit.name}</span>}
      <input
        className={`input input-sm w-full ${isWrong ? 'input-error' : ''}`}
        inputMode="decimal"
        aria-invalid={isWrong}
        value={typed}
        onChange={(event) => {
          const text = event.target.value;
          setTyped(text);
          const number = Number(text);
          onValue(text.trim() === '' || !Number.isFinite(number) ? undefined : number * size);
        }}
      />
      {isWrong && <span className="text-error">Not a number</span>}
    </label>
  );
}
