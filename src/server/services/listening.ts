import type { Recipe } from '@/core/recipe/types';
import type { Context } from '../context';
import type { ListenedSound } from '../work/listenedSound';
import { questionOf, type AnswerOf, type QuestionName, type ToldOf } from '../work/questions';

/** A stored sound, source or output, that is heard or looked at, and the recipe it is heard behind. */
export interface Listened {
  sha256: string;
  recipe?: Recipe | null | undefined;
  /** Tells when nobody waits for the answer any more. */
  signal?: AbortSignal | undefined;
}

/** Pictures, samples and figures of any stored sound, from any frame on, behind any recipe. */
export function listeningService({ db, store, pool, listener }: Context) {
  const making = new Map<string, Promise<void>>();

  /** Pictures and working copies may be thrown away at any time: then they are made again. */
  async function ensureDerived(sha256: string): Promise<void> {
    if (await store.has(sha256, 'peaks')) return;
    const made = making.get(sha256) ?? makeDerived(sha256).finally(() => making.delete(sha256));
    making.set(sha256, made);
    await made;
  }

  async function makeDerived(sha256: string): Promise<void> {
    const [peaks, workingCopy] = [store.temporaryPath(), store.temporaryPath()];
    const { hasWorkingCopy } = await pool().run(
      {
        kind: 'read',
        source: store.path(sha256),
        raw: db.sources.rawOf(sha256),
        keep: { peaks, workingCopy },
      },
      { signal: new AbortController().signal, progress: () => undefined },
    );
    if (hasWorkingCopy) await store.place(workingCopy, sha256, 'pcm.wav');
    await store.place(peaks, sha256, 'peaks');
  }

  /** Works with what can be read anywhere of some sounds, the files themselves or their working copies, which stay meanwhile. */
  function withPlain<T>(hashes: readonly string[], work: (paths: string[]) => Promise<T>) {
    return store.derived.using(hashes, async () => work(await Promise.all(hashes.map(plainPath))));
  }

  async function plainPath(sha256: string): Promise<string> {
    await ensureDerived(sha256);
    return store.path(sha256, (await store.has(sha256, 'pcm.wav')) ? 'pcm.wav' : undefined);
  }

  /** What is to be known of the samples of a plain path: a working copy says it itself. */
  const rawAt = (path: string, sha256: string) =>
    path === store.path(sha256) ? db.sources.rawOf(sha256) : null;

  /** Asks one question about a sound. @throws bad-setting, bad-span, and whatever its answering says */
  async function ask<Name extends QuestionName>(
    { sha256, recipe = null, signal }: Listened,
    question: Name,
    told: ToldOf<Name>,
  ): Promise<AnswerOf<Name>> {
    const { check } = questionOf(question);
    check?.(told, recipe);
    return withPlain([sha256], ([path]) => {
      const sound: ListenedSound = {
        sha256,
        path: path!,
        raw: rawAt(path!, sha256),
        peaks: store.path(sha256, 'peaks'),
        ...db.sources.extentOf(sha256),
        recipe,
      };
      return listener().ask({ sound, question, told }, signal);
    });
  }

  return { withPlain, rawAt, ask };
}

export type ListeningService = ReturnType<typeof listeningService>;
