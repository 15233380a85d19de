import { toast } from 'sonner';
import type { Applied, Changed, SoundEdit } from '@/wire';
import { plural } from './format';
import { useTold } from './history';
import { useProject } from './project';
import { useChange } from './useChange';

/** What can be done about a worry. */
export type WorryAnswer = 'cure' | 'set-aside' | 'take-up';

const done: Record<WorryAnswer, string> = {
  cure: 'cured',
  'set-aside': 'set aside',
  'take-up': 'taken up again',
};

/** Changing sounds, one or many: every call is one step that can be undone. */
export function useEdits() {
  const { project } = useProject();
  const { change, busy } = useChange();
  const told = useTold();

  /** Answers whether it went well. */
  async function edit(edits: readonly SoundEdit[], what?: string): Promise<boolean> {
    if (edits.length === 0) return true;
    const made = await change<Changed>(`projects/${project.id}/edits`, 'POST', { edits });
    if (made && what) told(what, made.changeId);
    return made !== null;
  }

  async function answerWorry(
    code: string,
    sounds: readonly number[],
    answer: WorryAnswer,
    note = '',
  ) {
    const made = await change<Applied>(`projects/${project.id}/worries`, 'POST', {
      code,
      sounds,
      answer,
      note,
    });
    if (!made) return;
    const { changed, changeId, failed } = made;
    if (changed > 0) told(`Worry of ${plural(changed, 'sound')} ${done[answer]}.`, changeId);
    for (const { name, message } of failed) toast.error(`“${name}” was left as it is: ${message}`);
  }

  return { edit, answerWorry, busy };
}
