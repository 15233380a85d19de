import { useState } from 'react';
import { toast } from 'sonner';
import { ApiError } from './api';
import { useRefresh } from './project';

/** Runs a change on the server, refreshes the screen and says what went wrong. */
export function useAction() {
  const refresh = useRefresh();
  const [busy, setBusy] = useState(false);
  async function run(change: () => Promise<unknown>): Promise<boolean> {
    setBusy(true);
    try {
      await change();
      await refresh();
      return true;
    } catch (error) {
      const facts = error instanceof ApiError ? error.facts : null;
      // What has changed meanwhile is shown before anything else is done to it.
      if (facts?.code === 'changed-meanwhile') await refresh();
      toast.error(facts?.message ?? 'That did not work.', { description: facts?.hint });
      return false;
    } finally {
      setBusy(false);
    }
  }
  return { run, busy };
}
