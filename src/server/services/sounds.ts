import { BijouError } from '@/core/errors';
import type { RawDescription } from '@/core/formats/raw/reader';
import { soundName, soundNameFrom } from '@/core/pack/names';
import { parseRecipe, shapeAfter } from '@/core/recipe/recipe';
import { emptyRecipe, type Recipe, type Shape } from '@/core/recipe/types';
import type { Sound } from '@/wire';
import type { Context } from '../context';
import type { JobHandler } from '../jobs/runner';

/** Bringing sounds in, and changing what is known of them. */
export function soundService(context: Context) {
  const { db, store, changed } = context;

  function byId(id: number): Sound {
    const sound = db.sounds.byId(id);
    if (sound) return sound;
    throw new BijouError('not-found', 'That sound is not there any more.', 'Go back to Collect.');
  }

  /**
   * Takes in one file; `raw` describes one without a header. It is a sound of the project at once, in the state `reading`, unless the same
   * bytes are there already: then the sound that has them is answered.
   */
  async function add(
    projectId: number,
    fileName: string,
    stream: AsyncIterable<Uint8Array>,
    expectedBytes: number | null,
    raw: RawDescription | null = null,
  ): Promise<{ sound: Sound; already: boolean }> {
    const { sha256, bytes } = await store.add(stream, expectedBytes);
    const same = db.sounds.bySource(projectId, sha256);
    if (same) return { sound: same, already: true };
    const id = db.transaction(() => {
      db.sounds.addSource(sha256, bytes, raw);
      const isRead = db.sounds.isRead(sha256);
      const added = db.sounds.add({
        projectId,
        name: soundNameFrom(fileName),
        fileName: fileName.slice(0, 400),
        sourceSha256: sha256,
        recipe: emptyRecipe,
        state: isRead ? 'ready' : 'reading',
      });
      if (!isRead) db.jobs.add(projectId, 'read', added);
      return added;
    });
    changed(projectId);
    context.pump();
    return { sound: byId(id), already: false };
  }

  function rename(id: number, name: string): Sound {
    const sound = byId(id);
    db.sounds.setName(id, soundName(name));
    changed(sound.projectId);
    return byId(id);
  }

  /** Sets the recipe after trying it on the sound's shape. @throws bad-setting, bad-span */
  function setRecipe(id: number, data: unknown): Sound {
    const sound = byId(id);
    const recipe: Recipe = parseRecipe(data);
    shapeAfter(recipe, sourceShape(sound));
    db.sounds.setRecipe(id, recipe);
    changed(sound.projectId);
    return byId(id);
  }

  /** Takes a sound out of the project, or back in. Its source stays. */
  async function setRemoved(id: number, removed: boolean): Promise<void> {
    const sound = byId(id);
    db.sounds.setRemoved(id, removed);
    changed(sound.projectId);
  }

  return { byId, ofProject: db.sounds.ofProject, add, rename, setRecipe, setRemoved };
}

/** The shape of a sound that has been read. @throws not-allowed while it has not. */
export function sourceShape(sound: Sound): Shape {
  if (!sound.facts) {
    throw new BijouError(
      'not-allowed',
      `"${sound.name}" has not been read yet.`,
      'Wait a moment, then try again.',
    );
  }
  const { sampleRateHz, channels, frames } = sound.facts;
  return { rateHz: sampleRateHz, channelCount: channels, frames };
}

/** Reading a source after it came in. What cannot be read is refused, and its bytes are not kept. */
export function readHandler({ db, store, pool }: Context): JobHandler {
  async function refuse(soundId: number, error: Parameters<typeof db.sounds.setState>[2]) {
    const sound = db.sounds.byId(soundId);
    // A sound that was read before stays: it is only being measured anew.
    if (sound?.state === 'ready') return;
    db.sounds.setState(soundId, 'refused', error);
    if (sound && db.sounds.usersOf(sound.sourceSha256) === 0)
      await store.remove(sound.sourceSha256);
  }
  return {
    start: () => undefined,
    async run(job, options, temporary) {
      const sound = db.sounds.byId(job.subjectId);
      if (!sound) return;
      const sha256 = sound.sourceSha256;
      const [peaks, workingCopy] = [temporary(), temporary()];
      const read = await pool().run(
        { kind: 'read', source: store.path(sha256), raw: sound.raw, peaks, workingCopy },
        options,
      );
      await store.place(peaks, sha256, 'peaks');
      if (read.hasWorkingCopy) await store.place(workingCopy, sha256, 'pcm.wav');
      db.transaction(() => {
        db.sounds.setFacts(sha256, read.facts, read.warnings);
        db.sounds.setState(sound.id, 'ready');
      });
    },
    fail: (job, error) => refuse(job.subjectId, error),
    cancel: (job) =>
      refuse(job.subjectId, {
        code: 'cancelled',
        message: 'Reading it was cancelled.',
        hint: 'Bring it in again when you like.',
      }),
  };
}
