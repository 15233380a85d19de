'use client';

import { useState } from 'react';
import { cellText, tableColumns } from '@/core/collect/columns';
import { Dialog } from '../../shared/Dialog';
import { MiddleCut } from '../../shared/MiddleCut';
import type { Entry } from '../table/useSoundTable';

/** The facts of two sounds side by side, with a mark where they differ. */
export function CompareFacts({
  pair,
  isOpen,
  onClose,
}: {
  pair: readonly [Entry, Entry] | null;
  isOpen: boolean;
  onClose: () => void;
}) {
  const [onlyDifferent, setOnlyDifferent] = useState(false);
  if (!pair) return null;
  const [a, b] = pair;
  const lines = tableColumns
    .filter(({ id }) => id !== 'name')
    .map((column) => {
      const [left, right] = [cellText(column, a.row), cellText(column, b.row)];
      const isDifferent = column.value(a.row) !== column.value(b.row);
      return { column, left, right, isDifferent };
    });
  const different = lines.filter(({ isDifferent }) => isDifferent).length;
  return (
    <Dialog title="Side by side" isOpen={isOpen} onClose={onClose} width="max-w-3xl">
      <div className="mt-2 mb-1 flex items-center">
        <p className="text-soft">
          {different} of {lines.length} facts differ
        </p>
        <label className="ml-auto flex items-center gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={onlyDifferent}
            onChange={(event) => setOnlyDifferent(event.target.checked)}
          />
          Only what differs
        </label>
      </div>
      <div className="max-h-[60vh] overflow-y-auto">
        <table className="w-full table-fixed">
          <thead className="bg-base-100 sticky top-0 text-left">
            <tr>
              <th className="w-36 py-1.5">
                <span className="sr-only">Fact</span>
              </th>
              <th className="w-6">
                <span className="sr-only">Differs</span>
              </th>
              <th className="py-1.5 pr-4">
                <MiddleCut text={a.sound.name} />
              </th>
              <th className="py-1.5">
                <MiddleCut text={b.sound.name} />
              </th>
            </tr>
          </thead>
          <tbody>
            {lines
              .filter(({ isDifferent }) => isDifferent || !onlyDifferent)
              .map(({ column, left, right, isDifferent }) => (
                <tr key={column.id} className="border-base-300 border-t align-top">
                  <th className="text-soft py-1 text-left font-normal">{column.title}</th>
                  <td className="text-primary py-1">
                    {isDifferent && <span aria-label="differs">≠</span>}
                  </td>
                  {[left, right].map((text, i) => (
                    <td
                      key={i}
                      className={`py-1 pr-4 break-words ${isDifferent ? 'font-semibold' : 'text-soft'}`}
                    >
                      {text || '—'}
                    </td>
                  ))}
                </tr>
              ))}
          </tbody>
        </table>
      </div>
      <form method="dialog" className="mt-4 text-right">
        <button className="btn btn-paper btn-sm">Close</button>
      </form>
    </Dialog>
  );
}
