import { memorySource, type ByteSource } from '@/core/bytes/source';
import type { Click } from '@/core/dsp/declick';
import { BijouError } from '@/core/errors';
import { nearestCrossing, zeroCrossing } from '@/core/measure/crossing';
import { BUCKET_FRAMES, readBucketPeaks, readColumns } from '@/core/measure/pyramid';
import { soundingStretches } from '@/core/measure/sounding';
import { spectrogram } from '@/core/measure/spectrogram';
import { blockFrames } from '@/core/pcm/pcm';
import { range, type PcmSource } from '@/core/pcm/source';
import { active } from '@/core/recipe/recipe';
import { count } from '@/core/tradeNames';
import { withFile } from '../files/bytes';
import { closeColumns, packColumns } from './columns';
import type { ListenedSound, ListenTask } from './listenTasks';
import { answering, type Asker, type Urgency } from './interest';
import { lastFigure, levelsOf, openShaped, pyramidOf } from './shaped';

/** Samples for the player: one after the other for every frame. */
export interface Heard {
  rateHz: number;
  channels: number;
  samples: Float32Array;
}

type TaskOf<Kind extends ListenTask['kind']> = Extract<ListenTask, { kind: Kind }>;

/** Most that one answer holds: samples of all channels, and stretches or clicks. */
const MOST_SAMPLES = 24_000_000;
const MOST_FOUND = 50_000;
/** A question may take this long, and for each hour of the sound that much longer. */
const MOST_MS = 60_000;
const MOST_MS_AN_HOUR = 600_000;

/** How each question is answered. */
const answers: {
  [Kind in ListenTask['kind']]: (
    source: PcmSource,
    task: TaskOf<Kind>,
    asker: Asker,
  ) => Promise<unknown>;
} = {
  samples: (source, { startFrame, frames }) => heard(source, startFrame, frames),
  columns,
  levels: (source, { sound, isThorough }, asker) => levelsOf(source, sound, isThorough, asker),
  spectrogram,
  sounding: (source, { sound, thresholdDb, leastSilenceSeconds }, asker) =>
    withPyramid(source, sound, asker, async (pyramid) => {
      const found = await soundingStretches(source, await readBucketPeaks(pyramid), {
        threshold: 10 ** (thresholdDb / 20),
        leastSilenceFrames: Math.round(leastSilenceSeconds * source.rateHz),
      });
      if (found.length > MOST_FOUND) throw tooMany('stretches that sound', found.length);
      return found;
    }),
  crossing: (source, { frame, direction }) =>
    direction === 0 ? nearestCrossing(source, frame) : zeroCrossing(source, frame, direction),
  /** Its last step has found them when it was opened. */
  async clicks(_, { sound }, asker) {
    const found = (await lastFigure(sound, asker)) as Click[];
    if (found.length > MOST_FOUND) throw tooMany('clicks', found.length);
    return found.map(({ channel, startFrame, samples }) => ({
      channel,
      startFrame,
      frames: samples.length,
    }));
  },
};

/** What is heard first, what is looked at next, figures of the result, figures of single steps. */
function urgencyOf(task: ListenTask): Urgency {
  if (task.kind === 'samples' || task.kind === 'crossing') return 0;
  if (task.kind !== 'levels') return 1;
  return task.isThorough ? 2 : 3;
}

/** Answers one question about a sound behind its recipe. `gone` is set when nobody waits any more. */
export function listen(task: ListenTask, gone: Int32Array): Promise<unknown> {
  const answer = answers[task.kind] as (
    source: PcmSource,
    task: ListenTask,
    asker: Asker,
  ) => Promise<unknown>;
  const hours = (task.sound.frames ?? 0) / (task.sound.rateHz ?? 48_000) / 3_600;
  const asker: Asker = {
    urgency: urgencyOf(task),
    gone,
    deadline: performance.now() + MOST_MS + hours * MOST_MS_AN_HOUR,
  };
  return withFile(task.sound.path, (file) =>
    answering(asker, async () => answer(await openShaped(file, task.sound, asker), task, asker)),
  );
}

async function heard(source: PcmSource, startFrame: number, frames: number): Promise<Heard> {
  const { channelCount } = source;
  const start = Math.min(startFrame, source.frames);
  const end = Math.min(source.frames, startFrame + frames);
  if ((end - start) * channelCount > MOST_SAMPLES)
    throw tooMany('samples', (end - start) * channelCount);
  const woven = new Float32Array((end - start) * channelCount);
  let at = 0;
  for await (const block of range(source, start, end)) {
    block.forEach((channel, c) => {
      for (let i = 0, to = at + c; i < channel.length; i++, to += channelCount) {
        woven[to] = channel[i]!;
      }
    });
    at += blockFrames(block) * channelCount;
  }
  return { rateHz: source.rateHz, channels: channelCount, samples: woven };
}

function tooMany(what: string, found: number): BijouError {
  return new BijouError(
    'too-large',
    `There are ${count(found)} ${what}: more than one answer can hold.`,
    'Ask about a part of the sound, or with another threshold.',
  );
}

async function columns(
  source: PcmSource,
  { sound, startFrame, endFrame, count: columnCount }: TaskOf<'columns'>,
  asker: Asker,
): Promise<Float32Array> {
  if ((endFrame - startFrame) / columnCount < BUCKET_FRAMES) {
    return closeColumns(source, startFrame, endFrame, columnCount);
  }
  return withPyramid(source, sound, asker, async (pyramid) =>
    packColumns(await readColumns(pyramid, startFrame, endFrame, columnCount)),
  );
}

/** The pyramid of a source is stored; that of a shaped sound is made when it is first wanted. */
async function withPyramid<T>(
  source: PcmSource,
  sound: ListenedSound,
  asker: Asker,
  work: (pyramid: ByteSource) => Promise<T>,
): Promise<T> {
  const isShaped = sound.recipe !== null && active(sound.recipe).length > 0;
  if (!isShaped) return withFile(sound.peaks, work);
  return work(memorySource(await pyramidOf(source, sound, asker)));
}
