'use client';

import { usePathname } from 'next/navigation';
import type { ReactNode } from 'react';
import { count } from '../shared/format';
import { useProject } from '../shared/project';
import { ProgressLine } from './ProgressLine';

/** How far the sounds of a very large project are here. */
export function Loading() {
  const { sounds, rest } = useProject();
  if (!rest) return null;
  const all = sounds.length + rest.count;
  return (
    <ProgressLine label="Sounds loaded" value={sounds.length} max={all}>
      <span>
        Loading sounds: {count(sounds.length)} of {count(all)}
      </span>
    </ProgressLine>
  );
}

/** Lists that may be shown while sounds come in. All else would say of sounds that they are gone. */
const LISTS = /^\/p\/\d+\/(collect|pack)$/;

/** A screen, as soon as all sounds are here that it may ask for. */
export function WhenLoaded({ children }: { children: ReactNode }) {
  const isPart = useProject().rest !== null;
  const path = usePathname();
  return isPart && !LISTS.test(path) ? null : children;
}
