'use client';

import { useEffect, useState } from 'react';
import { useStore } from 'zustand';
import { beHeard } from '../strip/listening';
import { Rehearsal, type Rehearsing } from './rehearsing';

/** A host that is there as long as its screen is, heard through the strip. */
export function useRehearsal(hostId: string, title: string): Rehearsal | null {
  const [rehearsal, setRehearsal] = useState<Rehearsal | null>(null);
  useEffect(() => {
    const made = new Rehearsal(hostId);
    setRehearsal(made);
    const leave = beHeard({
      title,
      peak: () => made.peak(),
      setVolume: (volume) => made.setVolume(volume),
      stop: () => made.silence(),
    });
    // Browsers let sound out behind a gesture: the first one here is as good as any.
    const wake = () => void made.wake();
    window.addEventListener('pointerdown', wake, { once: true });
    window.addEventListener('keydown', wake, { once: true });
    return () => {
      window.removeEventListener('pointerdown', wake);
      window.removeEventListener('keydown', wake);
      leave();
      void made.close();
    };
  }, [hostId, title]);
  return rehearsal;
}

/** A part of what a host is at. */
export function useAt<T>(rehearsal: Rehearsal, part: (state: Rehearsing) => T): T {
  return useStore(rehearsal.store, part);
}
