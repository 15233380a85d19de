import type { Stretch } from '@/core/measure/sounding';
import { BijouError } from '@/core/errors';
import type { Recipe } from '@/core/recipe/types';
import type { ClickPlace, ShapedLevels } from '@/wire';
import type { Context } from '../context';
import type { Heard } from '../work/listen';
import type { ListenedSound, ListenTask } from '../work/listenTasks';

/** Most frames that one request may ask for: a quarter of a minute at 192 kHz. */
const MOST_FRAMES = 3_000_000;
const MOST_COLUMNS = 8_192;
const MOST_ROWS = 1_024;

/** A stored sound, source or output, that is heard or looked at, and the recipe it is heard behind. */
export interface Listened {
  sha256: string;
  recipe?: Recipe | undefined;
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
        peaks,
        workingCopy,
      },
      { signal: new AbortController().signal, progress: () => undefined },
    );
    if (hasWorkingCopy) await store.place(workingCopy, sha256, 'pcm.wav');
    await store.place(peaks, sha256, 'peaks');
  }

  /** Works with the WAVs that hold some sounds, the files themselves or their working copies, which stay meanwhile. */
  function withPlain<T>(hashes: readonly string[], work: (paths: string[]) => Promise<T>) {
    return store.derived.using(hashes, async () => work(await Promise.all(hashes.map(plainPath))));
  }

  async function plainPath(sha256: string): Promise<string> {
    await ensureDerived(sha256);
    return store.path(sha256, (await store.has(sha256, 'pcm.wav')) ? 'pcm.wav' : undefined);
  }

  type Question = ListenTask extends infer Task
    ? Task extends { sound: unknown }
      ? Omit<Task, 'sound'>
      : never
    : never;

  async function ask<Result>(
    { sha256, recipe, signal }: Listened,
    question: Question,
  ): Promise<Result> {
    return withPlain([sha256], ([path]) => {
      const sound: ListenedSound = {
        sha256,
        path: path!,
        peaks: store.path(sha256, 'peaks'),
        ...db.sources.lengthOf(sha256),
        recipe: recipe ?? null,
      };
      return listener().ask<Result>({ ...question, sound } as ListenTask, signal);
    });
  }

  /** Interleaved samples of the frames that there are in the span. */
  async function samples(of: Listened, startFrame: number, frames: number): Promise<Heard> {
    checkSpan(startFrame, frames, MOST_FRAMES);
    return ask<Heard>(of, { kind: 'samples', startFrame, frames });
  }

  /** `count` columns over the span: channel by channel `min, max, rms` for each. */
  async function columns(
    of: Listened,
    startFrame: number,
    endFrame: number,
    count: number,
  ): Promise<Float32Array> {
    checkSpan(startFrame, endFrame - startFrame, Number.MAX_SAFE_INTEGER);
    checkCount(count, MOST_COLUMNS);
    return ask(of, { kind: 'columns', startFrame, endFrame, count });
  }

  return {
    withPlain,
    samples,
    columns,
    /** Length, peak and RMS; true peak and loudness too when it is to be thorough. */
    levels: (of: Listened, isThorough: boolean): Promise<ShapedLevels> =>
      ask(of, { kind: 'levels', isThorough }),
    /** Levels over time and pitch, one byte each, column by column. */
    async spectrogram(of: Listened, span: Stretch, size: { columns: number; rows: number }) {
      checkSpan(span.startFrame, span.endFrame - span.startFrame, Number.MAX_SAFE_INTEGER);
      checkCount(size.columns, MOST_COLUMNS);
      checkCount(size.rows, MOST_ROWS);
      return ask<Uint8Array>(of, { kind: 'spectrogram', ...span, ...size });
    },
    /** Where it sounds, louder than the threshold. */
    sounding: (
      of: Listened,
      options: { thresholdDb: number; leastSilenceSeconds: number },
    ): Promise<Stretch[]> => ask(of, { kind: 'sounding', ...options }),
    /** The zero crossing before (−1), behind (1) or nearest to (0) a frame. */
    crossing: (of: Listened, frame: number, direction: -1 | 0 | 1): Promise<number | null> =>
      ask(of, { kind: 'crossing', frame, direction }),
    /** What the declick that ends the recipe has found. */
    async clicks(of: Listened): Promise<ClickPlace[]> {
      if (of.recipe?.steps.findLast(({ on }) => on)?.kind !== 'declick') throw noDeclick();
      return ask(of, { kind: 'clicks' });
    },
  };
}

export type ListeningService = ReturnType<typeof listeningService>;

function checkSpan(startFrame: number, frames: number, most: number): void {
  const whole = Number.isInteger(startFrame) && Number.isInteger(frames);
  if (!whole || startFrame < 0 || frames < 1 || frames > most) throw badRange();
}

function checkCount(count: number, most: number): void {
  if (!Number.isInteger(count) || count < 1 || count > most) throw badRange();
}

function badRange(): BijouError {
  return new BijouError(
    'bad-span',
    'That range cannot be read.',
    'Ask for a range inside the sound.',
  );
}

function noDeclick(): BijouError {
  return new BijouError(
    'bad-setting',
    'Only a declick finds clicks, and the recipe does not end with one.',
    'Send the recipe up to the declick.',
  );
}
