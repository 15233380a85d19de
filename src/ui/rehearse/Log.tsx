'use client';

import { useEffect, useRef } from 'react';

/** What a host did and what happened to it, with the time since the pack was brought. */
export function Log({ lines }: { lines: readonly { atMs: number; text: string }[] }) {
  const list = useRef<HTMLOListElement>(null);
  useEffect(() => {
    if (list.current) list.current.scrollTop = list.current.scrollHeight;
  }, [lines]);
  return (
    <section aria-label="Log" className="border-base-300 bg-base-100 border">
      <h2 className="border-base-300 border-b px-4 py-1.5 font-serif text-lg">Log</h2>
      <ol
        ref={list}
        className="max-h-56 overflow-y-auto px-4 py-1.5 text-xs"
        tabIndex={0}
        aria-label="Lines"
      >
        {lines.map(({ atMs, text }, i) => (
          <li key={i} className="flex gap-3 py-0.5">
            <span className="text-soft w-14 shrink-0 text-right">
              {(atMs / 1_000).toFixed(2)} s
            </span>
            <span className="min-w-0 break-words">{text}</span>
          </li>
        ))}
      </ol>
    </section>
  );
}
