import { toast } from 'sonner';
import { call } from './api';
import { useProject } from './project';
import { useAction } from './useAction';

/** Undoing and doing again what was changed in the project. */
export function useHistory() {
  const { project, history } = useProject();
  const { run } = useAction();
  const go = (direction: 'back' | 'forward') =>
    run(async () => {
      const { title } = await call<{ title: string | null }>(
        `projects/${project.id}/history`,
        'POST',
        { go: direction },
      );
      if (title) toast(`${direction === 'back' ? 'Undone' : 'Done again'}: ${title}`);
    });
  return { ...history, back: () => go('back'), forward: () => go('forward') };
}

/** Says what was done, with a way back. */
export function useTold(): (what: string) => void {
  const { back } = useHistory();
  return (what) => void toast(what, { action: { label: 'Undo', onClick: () => void back() } });
}
