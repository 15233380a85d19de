'use client';

import { Archive } from 'lucide-react';
import { useState } from 'react';
import { useProject } from '../../shared/project';
import { useMakePack, useOutline } from '../layout/asking';

/** Makes a pack of several destinations, each in its own folder. */
export function Several() {
  const { briefs, cells } = useProject();
  const sent = new Set(cells.map(({ briefId }) => briefId));
  const listed = briefs.filter(({ id }) => sent.has(id));
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const wanted = listed.filter(({ id }) => chosen.has(id)).map(({ id }) => id);
  const outline = useOutline(wanted);
  const { make, busy } = useMakePack();
  const reasons = outline?.troubles.filter(({ weight }) => weight === 'wrong') ?? [];
  if (listed.length === 0) return null;
  return (
    <section aria-label="Make a pack" className="border-base-300 bg-base-100 border px-3 py-2.5">
      <h2 className="font-serif text-lg">Make a pack</h2>
      <p className="text-soft text-xs">Several destinations lie in it side by side, in folders.</p>
      <ul className="my-2 max-h-52 overflow-y-auto">
        {listed.map(({ id, title }) => (
          <li key={id}>
            <label className="flex cursor-pointer items-center gap-2 py-0.5">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={chosen.has(id)}
                onChange={({ target: { checked } }) =>
                  setChosen((before) => {
                    const next = new Set(before);
                    if (checked) next.add(id);
                    else next.delete(id);
                    return next;
                  })
                }
              />
              {title}
            </label>
          </li>
        ))}
      </ul>
      {reasons.length > 0 && (
        <ul className="text-warning mb-2 text-xs">
          {reasons.slice(0, 4).map(({ message }) => (
            <li key={message}>{message}</li>
          ))}
          {reasons.length > 4 && <li>and {reasons.length - 4} more</li>}
        </ul>
      )}
      <button
        className="btn btn-primary btn-sm w-full"
        disabled={
          busy || wanted.length === 0 || !outline || reasons.length > 0 || outline.newest?.isCurrent
        }
        onClick={() => void make(wanted)}
      >
        <Archive size={15} />
        {outline?.newest?.isCurrent
          ? `Pack ${outline.newest.id} is that already`
          : (outline?.toBuild ?? 0) > 0
            ? 'Build and pack'
            : 'Make the pack'}
      </button>
    </section>
  );
}
