import { LRUCache } from 'lru-cache';
import { active } from '@/core/recipe/recipe';
import type { Recipe } from '@/core/recipe/types';
import type { Context } from '../context';
import type { ListenedSound } from '../work/listenedSound';
import { isPlain } from '../work/plainSound';
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
  const stored = (sha256: string) => ({
    source: store.path(sha256),
    raw: db.sources.rawOf(sha256),
  });

  /** Makes something of a stored file, once for all who wait for it. */
  function once<Made>(make: (sha256: string) => Promise<Made>) {
    const making = new Map<string, Promise<Made>>();
    return (sha256: string): Promise<Made> => {
      const made = making.get(sha256) ?? make(sha256).finally(() => making.delete(sha256));
      making.set(sha256, made);
      return made;
    };
  }

  const makePeaks = once(async (sha256) => {
    const peaks = store.temporaryPath();
    await pool().run({ kind: 'read', ...stored(sha256), peaks });
    await store.place(peaks, sha256, 'peaks');
  });

  /** Pictures may be thrown away at any time: then they are made again. */
  async function ensurePeaks(sha256: string): Promise<void> {
    if (!(await store.has(sha256, 'peaks'))) await makePeaks(sha256);
  }

  // What needs no copy; of what is no source only its file says so.
  const foundPlain = new LRUCache<string, true>({ max: 50_000 });

  /** Answers where samples can be read from any frame on: in a working copy, made now, or where they lie. */
  const makeCopy = once(async (sha256) => {
    const output = store.temporaryPath();
    const { frames } = db.sources.extentOf(sha256);
    const letGo = store.derived.hold([sha256]);
    try {
      const isMade = await pool().run({ kind: 'copy', ...stored(sha256), frames, output });
      if (isMade) await store.place(output, sha256, 'pcm.wav');
      else foundPlain.set(sha256, true);
      return store.path(sha256, isMade ? 'pcm.wav' : undefined);
    } finally {
      letGo();
    }
  });

  function isKnownPlain(sha256: string): boolean {
    const facts = db.sources.factsOf(sha256);
    return foundPlain.has(sha256) || (facts !== null && isPlain(facts));
  }

  /**
   * Where samples can be read.
   * @param reach How many frames from its start are read at most; null for any.
   */
  async function pathFor(sha256: string, reach: number | null): Promise<string> {
    if (await store.has(sha256, 'pcm.wav')) return store.path(sha256, 'pcm.wav');
    if (reach === 0 || isKnownPlain(sha256)) return store.path(sha256);
    const copying = makeCopy(sha256);
    if (reach === null || reach > MOST_NEAR_FRAMES) return copying;
    // The start is soon decoded, and what comes behind it will soon be asked for. If that fails, it says so then.
    copying.catch(() => undefined);
    return store.path(sha256);
  }

  /** Works with what can be read anywhere of some sounds, the files themselves or their working copies, which stay meanwhile. */
  const withPlain = <T>(hashes: readonly string[], work: (paths: string[]) => Promise<T>) =>
    store.derived.using(hashes, async () =>
      work(await Promise.all(hashes.map((sha256) => pathFor(sha256, null)))),
    );

  /** What is to be known of the samples of a plain path: a working copy says it itself. */
  const rawAt = (path: string, sha256: string) =>
    path === store.path(sha256) ? db.sources.rawOf(sha256) : null;

  /** Asks one question about a sound. @throws bad-setting, bad-span, and whatever its answering says */
  async function ask<Name extends QuestionName>(
    { sha256, recipe = null, signal }: Listened,
    question: Name,
    told: ToldOf<Name>,
  ): Promise<AnswerOf<Name>> {
    const { check, reach } = questionOf(question);
    check?.(told, recipe);
    const isShaped = recipe !== null && active(recipe).length > 0;
    return store.derived.using([sha256], async () => {
      await ensurePeaks(sha256);
      const path = await pathFor(sha256, isShaped ? null : (reach?.(told) ?? null));
      const sound: ListenedSound = {
        sha256,
        path,
        raw: rawAt(path, sha256),
        peaks: store.path(sha256, 'peaks'),
        ...db.sources.extentOf(sha256),
        recipe,
      };
      return listener().ask<AnswerOf<Name>>({ sound, question, told }, signal);
    });
  }

  return { withPlain, rawAt, ask };
}

/** So much of a start is decoded while somebody waits for it: a minute of the usual rates. */
const MOST_NEAR_FRAMES = 3_000_000;

export type ListeningService = ReturnType<typeof listeningService>;
