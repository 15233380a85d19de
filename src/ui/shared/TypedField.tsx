'use client';

import { useState } from 'react';
import { selectAll } from './selectAll';

/**
 * What somebody types into a field in place of its value; null while nothing is typed. It is forgotten when the value
 * changes behind it: with the drawing, not some time later, when it would take what was typed meanwhile along.
 */
export function useTyped(value: unknown): [string | null, (text: string | null) => void] {
  const [typed, setTyped] = useState<string | null>(null);
  const [known, setKnown] = useState(value);
  if (!Object.is(known, value)) {
    setKnown(value);
    setTyped(null);
  }
  return [typed, setTyped];
}

/** A field whose text counts at Enter and when it is left; Escape has its value back. */
export function TypedField({
  typed,
  shown,
  isGood,
  onType,
  onCommit,
  onEnter,
  className,
  ...rest
}: {
  typed: string | null;
  /** What stands there while nothing is typed. */
  shown: string;
  isGood: boolean;
  onType: (text: string | null) => void;
  onCommit: () => void;
  /** What was typed counts, and somebody goes on. */
  onEnter?: () => void;
  className: string;
} & Pick<
  React.ComponentProps<'input'>,
  'id' | 'title' | 'inputMode' | 'aria-label' | 'aria-describedby'
>) {
  const commit = () => {
    if (typed !== null && isGood) onCommit();
  };
  return (
    <input
      {...rest}
      className={`input input-sm aria-invalid:border-error ${className}`}
      value={typed ?? shown}
      aria-invalid={!isGood}
      spellCheck={false}
      onChange={(event) => onType(event.target.value)}
      {...selectAll}
      onBlur={commit}
      onKeyDown={(event) => {
        if (event.key === 'Enter') {
          commit();
          if (isGood) onEnter?.();
        }
        if (event.key !== 'Escape' || typed === null) return;
        // What was typed goes first, then whatever lies on top.
        event.preventDefault();
        onType(null);
      }}
    />
  );
}
