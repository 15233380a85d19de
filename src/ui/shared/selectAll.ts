import type { FocusEvent, MouseEvent } from 'react';

/** A field in which what is typed takes the place of what is there: going into it marks all of it. */
export const selectAll = {
  onFocus: ({ currentTarget }: FocusEvent<HTMLInputElement>) => currentTarget.select(),
  onMouseDown(event: MouseEvent<HTMLInputElement>) {
    const field = event.currentTarget;
    // The second click puts the mark where it points.
    if (document.activeElement === field) return;
    event.preventDefault();
    field.focus();
  },
};
