import { toast } from 'sonner';
import type { SoundEdit } from '@/wire';
import { call } from './api';
import { plural } from './format';
import { useTold } from './history';
import { useProject } from './project';
import { useAction } from './useAction';

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
  const { run, busy } = useAction();
  const told = useTold();

  /** Answers whether it went well. */
  async function edit(edits: readonly SoundEdit[], what?: string): Promise<boolean> {
    if (edits.length === 0) return true;
    const went = await run(() => call(`projects/${project.id}/edits`, 'POST', { edits }));
    if (went && what) told(what);
    return went;
  }

  async function answerWorry(
    code: string,
    sounds: readonly number[],
    answer: WorryAnswer,
    note = '',
  ) {
    await run(async () => {
      const { changed, failed } = await call<{
        changed: number;
        failed: { name: string; message: string }[];
      }>(`projects/${project.id}/worries`, 'POST', { code, sounds, answer, note });
      if (changed > 0) told(`Worry of ${plural(changed, 'sound')} ${done[answer]}.`);
      for (const { name, message } of failed)
        toast.error(`“${name}” was left as it is: ${message}`);
    });
  }

  return { edit, answerWorry, busy };
}
