'use client';

import { Plus, X } from 'lucide-react';
import type { ReactNode } from 'react';
import { Problem, Row } from '../parts';
import type { LayoutEditing } from './editing';

/** A list of which each line is edited by itself. */
export function Lines<Item>({
  label,
  field,
  items,
  fresh,
  editing,
  onChange,
  children,
}: {
  /** What they are, and what one of them is: ["Slots", "slot"]. */
  label: readonly [all: string, one: string];
  /** Path of the list in the brief. */
  field: string;
  items: readonly Item[];
  /** A new line. */
  fresh: () => Item;
  editing: LayoutEditing;
  /** undefined for no line at all. */
  onChange: (items: Item[] | undefined) => void;
  children: (item: Item, put: (change: Partial<Item>) => void, name: string) => ReactNode;
}) {
  const set = (next: Item[]) => onChange(next.length > 0 ? next : undefined);
  return (
    <Row label={label[0]} field={items.length > 0 ? '\0' : field} editing={editing}>
      <div className="w-full space-y-2">
        {items.map((item, i) => (
          <div key={i} className="border-base-300 border-l-2 pl-2">
            <div className="flex flex-wrap items-center gap-1.5">
              {children(
                item,
                (change) => set(items.map((one, at) => (at === i ? { ...one, ...change } : one))),
                `${label[1]} ${i + 1}`,
              )}
              <button
                type="button"
                className="btn btn-ghost btn-xs btn-square"
                aria-label={`Take ${label[1]} ${i + 1} away`}
                onClick={() => set(items.filter((_, at) => at !== i))}
              >
                <X size={13} />
              </button>
            </div>
            <Problem field={`${field}[${i}]`} editing={editing} />
          </div>
        ))}
        <button
          type="button"
          className="btn btn-ghost btn-xs"
          onClick={() => set([...items, fresh()])}
        >
          <Plus size={13} /> One more {label[1]}
        </button>
      </div>
    </Row>
  );
}
