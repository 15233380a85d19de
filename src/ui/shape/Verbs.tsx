'use client';

import { useDesk } from './desk';
import { useVerbs } from './useVerbs';

/** What can be done with the marked part. */
export function Verbs() {
  const hasMark = useDesk((desk) => desk.mark !== null);
  const verbs = useVerbs();
  return (
    <div role="toolbar" aria-label="With the marked part" className="mt-2 flex flex-wrap gap-1.5">
      {verbs.map(({ name, key, tip, run }) => (
        <button
          key={name}
          className="btn btn-paper btn-sm"
          disabled={!hasMark}
          title={hasMark ? `${tip} (${key})` : `${tip} (${key}). Mark a part first.`}
          onClick={run}
        >
          {name}
        </button>
      ))}
    </div>
  );
}
