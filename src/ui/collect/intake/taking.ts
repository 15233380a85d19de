'use client';

import { useLayoutEffect, useRef } from 'react';
import { create } from 'zustand';
import type { Brought } from './sending';

/** A screen that takes what is dropped on it itself, in the place of the project. */
interface Taker {
  /** What is said while something is held over it. */
  invitation: string;
  take(files: readonly Brought[]): void;
}

export const useTaker = create<{ taker: Taker | null }>(() => ({ taker: null }));

/** Has this screen take what is dropped or pasted, as long as it is there. */
export function useTaking(invitation: string, take: Taker['take']): void {
  const latest = useRef(take);
  latest.current = take;
  useLayoutEffect(() => {
    const taker: Taker = { invitation, take: (files) => latest.current(files) };
    useTaker.setState({ taker });
    return () => {
      if (useTaker.getState().taker === taker) useTaker.setState({ taker: null });
    };
  }, [invitation]);
}
