import { trim } from '@/core/dsp/trim';
import { BijouError } from '@/core/errors';
import { openSound } from '@/core/formats/open';
import type { SoundReader } from '@/core/formats/types';
import { BUCKET_FRAMES, readColumns, type Column } from '@/core/measure/pyramid';
import { blockFrames, sliceBlock, type Block } from '@/core/pcm/pcm';
import { applyRecipe } from '@/core/recipe/recipe';
import type { Recipe } from '@/core/recipe/types';
import type { Context } from '../context';
import { withFile } from '../files/bytes';

/** Most frames that one request may ask for: a quarter of a minute at 192 kHz. */
const MOST_FRAMES = 3_000_000;
const MOST_COLUMNS = 8_192;

/** Pictures and samples of any stored sound, source or output, from any frame on. */
export function listeningService({ db, store, pool }: Context) {
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

  /** Reads frames through the WAV that holds them: the file itself, or its working copy. */
  async function readSpan(
    sha256: string,
    startFrame: number,
    endFrame: number,
    take: (block: Block, atFrame: number) => void,
    recipe?: Recipe,
  ): Promise<{ rateHz: number; channels: number }> {
    await ensureDerived(sha256);
    const path = store.path(sha256, (await store.has(sha256, 'pcm.wav')) ? 'pcm.wav' : undefined);
    return withFile(path, async (source) => {
      const { pcm, from: first } = await shapedFrom(await openSound(source), startFrame, recipe);
      let at = first;
      for await (const block of pcm.blocks) {
        const from = Math.max(0, startFrame - at);
        const to = Math.min(blockFrames(block), endFrame - at);
        if (to > from) take(sliceBlock(block, from, to), at + from);
        at += blockFrames(block);
        if (at >= endFrame) break;
      }
      return { rateHz: pcm.rateHz, channels: pcm.channelCount };
    });
  }

  /** Interleaved float32 samples of the frames that there are in the span. */
  async function samples(sha256: string, startFrame: number, frames: number, recipe?: Recipe) {
    checkSpan(startFrame, frames, MOST_FRAMES);
    const parts: Float32Array[] = [];
    const take = (block: Block) => {
      const part = new Float32Array(blockFrames(block) * block.length);
      block.forEach((channel, c) => {
        for (let i = 0; i < channel.length; i++) part[i * block.length + c] = channel[i]!;
      });
      parts.push(part);
    };
    const { rateHz, channels } = await readSpan(
      sha256,
      startFrame,
      startFrame + frames,
      take,
      recipe,
    );
    const bytes = Buffer.concat(parts.map((part) => new Uint8Array(part.buffer)));
    return { rateHz, channels, bytes };
  }

  /** `columns` columns over the span, per channel: from the pyramid, or from samples when close. */
  async function columns(
    sha256: string,
    startFrame: number,
    endFrame: number,
    count: number,
  ): Promise<Column[][]> {
    checkSpan(startFrame, endFrame - startFrame, Number.MAX_SAFE_INTEGER);
    if (!Number.isInteger(count) || count < 1 || count > MOST_COLUMNS) throw badRange();
    if ((endFrame - startFrame) / count >= BUCKET_FRAMES) {
      await ensureDerived(sha256);
      return withFile(store.path(sha256, 'peaks'), (source) =>
        readColumns(source, startFrame, endFrame, count),
      );
    }
    return closeColumns(sha256, startFrame, endFrame, count);
  }

  async function closeColumns(sha256: string, startFrame: number, endFrame: number, count: number) {
    const perColumn = (endFrame - startFrame) / count;
    let sums: { min: number; max: number; square: number; frames: number }[][] = [];
    await readSpan(sha256, startFrame, endFrame, (block, at) => {
      if (sums.length === 0) sums = block.map(() => Array.from({ length: count }, emptySum));
      block.forEach((channel, c) => {
        for (let i = 0; i < channel.length; i++) {
          const column = Math.min(count - 1, Math.floor((at + i - startFrame) / perColumn));
          const sum = sums[c]![column]!;
          const x = channel[i]!;
          if (x < sum.min) sum.min = x;
          if (x > sum.max) sum.max = x;
          sum.square += x * x;
          sum.frames++;
        }
      });
    });
    return sums.map((channel) =>
      channel.map(({ min, max, square, frames }) =>
        frames > 0 ? { min, max, rms: Math.sqrt(square / frames) } : { min: 0, max: 0, rms: 0 },
      ),
    );
  }

  return { samples, columns };
}

/**
 * The sound behind a recipe, from `startFrame` or an earlier frame `from` on. A recipe is run from its
 * beginning, as it is built; only a span that is kept first can be gone to directly.
 */
async function shapedFrom(reader: SoundReader, startFrame: number, recipe?: Recipe) {
  if (!recipe) return { pcm: reader.pcm(startFrame), from: startFrame };
  const { sampleRateHz: rateHz, channels: channelCount, frames } = reader.header;
  const shape = { rateHz, channelCount, frames: frames ?? 0 };
  const [first, ...rest] = recipe.steps.filter((step) => step.on);
  if (first?.kind !== 'keep') {
    return { pcm: await applyRecipe(recipe, { shape, open: () => reader.pcm() }), from: 0 };
  }
  const [start, end] = [Number(first.params['startFrame']), Number(first.params['endFrame'])];
  const from = rest.length === 0 ? Math.min(startFrame, end - start - 1) : 0;
  const length = end - start - from;
  const kept = {
    shape: { ...shape, frames: length },
    open: () => trim(reader.pcm(start + from), 0, length),
  };
  return { pcm: await applyRecipe({ ...recipe, steps: rest }, kept), from };
}

function emptySum() {
  return { min: Infinity, max: -Infinity, square: 0, frames: 0 };
}

function checkSpan(startFrame: number, frames: number, most: number): void {
  const whole = Number.isInteger(startFrame) && Number.isInteger(frames);
  if (!whole || startFrame < 0 || frames < 1 || frames > most) throw badRange();
}

function badRange(): BijouError {
  return new BijouError(
    'bad-span',
    'That range cannot be read.',
    'Ask for a range inside the sound.',
  );
}
