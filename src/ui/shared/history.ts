import { QueryClient, useQuery } from '@tanstack/react-query';
import { usePathname } from 'next/navigation';
import { toast } from 'sonner';
import type { Gone, History, HistoryEntry, ProjectNews, Sound } from '@/wire';
import { call } from './api';
import { useProject, useRevision } from './project';
import { queue } from './queue';
import { useAction } from './useAction';
import { changes } from './useChange';

const histories = new QueryClient({
  defaultOptions: { queries: { staleTime: Infinity, gcTime: 60_000, networkMode: 'always' } },
});

/** What was done to one sound, oldest first; asked for anew whenever the sound is other than before. */
export function useSoundHistory(sound: Pick<Sound, 'id' | 'revision'> | null) {
  const { data, isPlaceholderData } = useQuery(
    {
      queryKey: ['history', sound?.id, sound?.revision],
      queryFn: () => call<HistoryEntry[]>(`sounds/${sound!.id}/history`),
      enabled: sound !== null,
      // While the new list is on its way the old one stays.
      placeholderData: (before, query) => (query?.queryKey[1] === sound?.id ? before : undefined),
    },
    histories,
  );
  // What has not come yet is asked for by whoever needs it at once.
  return { entries: data ?? [], isOld: isPlaceholderData || data === undefined };
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

const steps = queue<History>();

/** Undoing and doing again: of one sound where it is shaped, elsewhere of the project. */
export function useHistory(): History & { back: () => void; forward: () => void } {
  const { project, history } = useProject();
  const shaped = useShapedSound();
  const { entries, isOld } = useSoundHistory(shaped);
  const { run } = useAction();
  const revision = useRevision();
  const path = shaped ? `sounds/${shaped.id}` : `projects/${project.id}`;
  const seen: History = shaped ? historyOf(entries) : history;
  /** What a step would be, also where the screen does not know yet of what has just been done. */
  const now = async (): Promise<History> => {
    const isBehind = isOld || changes.isBusy();
    await changes.settled();
    if (!isBehind) return seen;
    if (shaped) return historyOf(await call<HistoryEntry[]>(`sounds/${shaped.id}/history`));
    return (await call<ProjectNews>(`projects/${project.id}?since=${revision()}`)).history;
  };
  const go = (direction: 'back' | 'forward') =>
    void steps(async (left) => {
      // The step that is meant is named: another window may have gone a step meanwhile.
      const { undo, redo } = left ?? (await now());
      const meant = direction === 'back' ? undo : redo;
      let next: History | undefined;
      if (meant) await run(async () => (next = await goStep(path, direction, meant.id)));
      return { result: undefined, next };
    });
  return { ...seen, back: () => go('back'), forward: () => go('forward') };
}

function historyOf(entries: readonly HistoryEntry[]): History {
  return {
    undo: entries.findLast(({ undone }) => !undone) ?? null,
    redo: entries.find(({ undone }) => undone) ?? null,
  };
}

async function goStep(
  path: string,
  go: 'back' | 'forward',
  change: number,
): Promise<History | undefined> {
  const { title, ...next } = await call<Gone>(`${path}/history`, 'POST', { go, change });
  if (title) toast(`${go === 'back' ? 'Undone' : 'Done again'}: ${title}`);
  return next;
}

/** What can be taken back is offered a little longer than other messages stand. */
const UNDO_MS = 8_000;

/** Says what was done, with a way back from just that. */
export function useTold(): (what: string, changeId: number | null) => void {
  const { project } = useProject();
  const { run } = useAction();
  return (what, changeId) =>
    void toast(what, {
      ...(changeId !== null && {
        duration: UNDO_MS,
        action: {
          label: 'Undo',
          onClick: () => void run(() => goStep(`projects/${project.id}`, 'back', changeId)),
        },
      }),
    });
}
