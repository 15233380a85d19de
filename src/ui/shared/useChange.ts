import { call } from './api';
import { useRevision } from './project';
import { queue } from './queue';
import { useAction } from './useAction';

/** Changes that are on their way to the server. */
export const changes = queue<number>();

/**
 * Changes sounds, one change after the other. Each names the revision that it was made on, so that it does
 * not undo what another window did meanwhile: what was on the screen, or what the change before it made.
 */
export function useChange() {
  const { run, busy } = useAction();
  const revision = useRevision();

  /** Answers what the server answered; null when it went wrong, which has been said then. */
  function change<Answer extends { revision: number }>(
    path: string,
    method: 'POST' | 'PATCH' | 'PUT',
    data: object,
  ): Promise<Answer | null> {
    const known = revision();
    return changes(async (made) => {
      let answer: Answer | null = null;
      await run(async () => {
        answer = await call<Answer>(path, method, { ...data, revision: made ?? known });
      });
      return { result: answer, next: (answer as Answer | null)?.revision };
    });
  }

  return { change, busy };
}
