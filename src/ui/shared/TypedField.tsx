'use client';

import { selectAll } from './selectAll';

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
