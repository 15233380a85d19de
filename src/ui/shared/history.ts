import { QueryClient, useQuery } from '@tanstack/react-query';
import { usePathname } from 'next/navigation';
import { toast } from 'sonner';
import type { HistoryEntry, Sound } from '@/wire';
import { call } from './api';
import { useProject } from './project';
import { useAction } from './useAction';

const histories = new QueryClient({
  defaultOptions: { queries: { staleTime: Infinity, gcTime: 60_000 } },
});

/** What was done to one sound, oldest first; asked for anew whenever the sound is other than before. */
export function useSoundHistory(sound: Pick<Sound, 'id' | 'revision'> | null) {
  const { data } = useQuery(
    {
      queryKey: ['history', sound?.id, sound?.revision],
      queryFn: () => call<HistoryEntry[]>(`sounds/${sound!.id}/history`),
      enabled: sound !== null,
      // While the new list is on its way the old one stays.
      placeholderData: (before, query) => (query?.queryKey[1] === sound?.id ? before : undefined),
    },
    histories,
  );
  return { entries: data ?? [] };
}

/** The sound that is shaped: there, undoing means this sound alone. */
function useShapedSound(): Sound | null {
  const path = usePathname();
  const { sounds } = useProject();
  const [, id] = /\/shape(?:\/(\d+))?$/.exec(path) ?? [null, null];
  if (id === null) return null;
  // Without a number the first sound is shaped.
  const isIt = (sound: Sound) =>
    id === undefined ? sound.facts !== null : sound.id === Number(id);
  return sounds.find(isIt) ?? null;
}

/** Undoing and doing again: of one sound where it is shaped, elsewhere of the project. */
export function useHistory() {
  const { project, history } = useProject();
  const shaped = useShapedSound();
  const { entries } = useSoundHistory(shaped);
  const { run } = useAction();
  const path = shaped ? `sounds/${shaped.id}` : `projects/${project.id}`;
  const go = (direction: 'back' | 'forward') =>
    run(async () => {
      const { title } = await call<{ title: string | null }>(`${path}/history`, 'POST', {
        go: direction,
      });
      if (title) toast(`${direction === 'back' ? 'Undone' : 'Done again'}: ${title}`);
    });
  const titles = shaped
    ? {
        undo: entries.findLast(({ undone }) => !undone)?.title ?? null,
        redo: entries.find(({ undone }) => undone)?.title ?? null,
      }
    : history;
  return { ...titles, back: () => go('back'), forward: () => go('forward') };
}

/** Says what was done, with a way back. */
export function useTold(): (what: string) => void {
  const { back } = useHistory();
  return (what) => void toast(what, { action: { label: 'Undo', onClick: () => void back() } });
}
