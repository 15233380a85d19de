'use client';

import { useKeys } from '../../shared/keys';
import { PackHead } from '../PackHead';
import { Destinations } from './Destinations';

/** What goes to each destination, one after the other, with all findings and files in view. */
export function ListsPage() {
  useKeys({ h: hearNext });
  return (
    <div className="px-6 py-4">
      <PackHead view="lists" />
      <Destinations />
    </div>
  );
}

let heard: string | null = null;

/** Plays the finished file behind the one that was played last, or the first. */
function hearNext(): void {
  const buttons = [...document.querySelectorAll<HTMLElement>('main button[aria-label^="Play "]')];
  const at = buttons.findIndex(({ ariaLabel }) => ariaLabel === heard);
  const next = buttons[(at + 1) % buttons.length];
  heard = next?.ariaLabel ?? null;
  next?.click();
}
