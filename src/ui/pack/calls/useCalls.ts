'use client';

import { useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import type { Call } from '@/core/pack/calls/calls';
import { useProjectId } from '../../shared/project';
import { useSettling } from '../layout/asking';

/**
 * The calls of a destination, changed here one after the other: what was changed is seen at once, and stands until the
 * server has all of it and has been asked again. Nothing that is on its way is taken for the last word.
 */
export function useCalls(briefId: string, stored: readonly Call[]) {
  const projectId = useProjectId();
  const client = useQueryClient();
  const { change } = useSettling(briefId);
  const [draft, setDraft] = useState<readonly Call[] | null>(null);
  const latest = useRef<readonly Call[] | null>(null);
  const sending = useRef({ count: 0, last: Promise.resolve() });
  const put = (calls: readonly Call[] | null) => {
    latest.current = calls;
    setDraft(calls);
  };

  /** Sends calls; null has them follow names again. */
  function save(next: readonly Call[] | null, say?: string): void {
    put(next);
    sending.current.count++;
    sending.current.last = sending.current.last.then(async () => {
      await change('/calls', 'PUT', { calls: next }, say);
      sending.current.count--;
      if (sending.current.count > 0) return;
      await client.refetchQueries({ queryKey: ['outline', projectId], type: 'active' });
      if (sending.current.count === 0) put(null);
    });
  }

  return {
    calls: draft ?? stored,
    save,
    /** Changes them as they are by now, whatever this drawing has of them. */
    edit: (next: (calls: readonly Call[]) => readonly Call[], say?: string) =>
      save(next(latest.current ?? stored), say),
  };
}
