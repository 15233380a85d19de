import { memorySource, type ByteSource } from '@/core/bytes/source';
import type { Click } from '@/core/dsp/declick';
import { nearestCrossing, zeroCrossing } from '@/core/measure/crossing';
import { BUCKET_FRAMES, readBucketPeaks, readColumns } from '@/core/measure/pyramid';
import { soundingStretches } from '@/core/measure/sounding';
import { spectrogram } from '@/core/measure/spectrogram';
import { blockFrames } from '@/core/pcm/pcm';
import { range, type PcmSource } from '@/core/pcm/source';
import { active } from '@/core/recipe/recipe';
import { withFile } from '../files/bytes';
import { closeColumns, packColumns } from './columns';
import type { ListenedSound, ListenTask } from './listenTasks';
import { lastFigure, levelsOf, openShaped, pyramidOf, urgently } from './shaped';

/** Samples for the player: one after the other for every frame. */
export interface Heard {
  rateHz: number;
  channels: number;
  samples: Float32Array;
}

type TaskOf<Kind extends ListenTask['kind']> = Extract<ListenTask, { kind: Kind }>;

/** How each question is answered. */
const answers: {
  [Kind in ListenTask['kind']]: (source: PcmSource, task: TaskOf<Kind>) => Promise<unknown>;
} = {
  samples: (source, { startFrame, frames }) => urgently(() => heard(source, startFrame, frames)),
  columns,
  levels: (source, { sound, isThorough }) => levelsOf(source, sound, isThorough),
  spectrogram,
  sounding: (source, { sound, thresholdDb, leastSilenceSeconds }) =>
    withPyramid(source, sound, async (pyramid) =>
      soundingStretches(source, await readBucketPeaks(pyramid), {
        threshold: 10 ** (thresholdDb / 20),
        leastSilenceFrames: Math.round(leastSilenceSeconds * source.rateHz),
      }),
    ),
  crossing: (source, { frame, direction }) =>
    direction === 0 ? nearestCrossing(source, frame) : zeroCrossing(source, frame, direction),
  /** Its last step has found them when it was opened. */
  async clicks(_, { sound }) {
    const found = await lastFigure<Click[]>(sound);
    return found.map(({ channel, startFrame, samples }) => ({
      channel,
      startFrame,
      frames: samples.length,
    }));
  },
};

/** Answers one question about a sound behind its recipe. */
export function listen(task: ListenTask): Promise<unknown> {
  const answer = answers[task.kind] as (source: PcmSource, task: ListenTask) => Promise<unknown>;
  return withFile(task.sound.path, async (file) =>
    answer(await openShaped(file, task.sound), task),
  );
}

async function heard(source: PcmSource, startFrame: number, frames: number): Promise<Heard> {
  const { channelCount } = source;
  const start = Math.min(startFrame, source.frames);
  const end = Math.min(source.frames, startFrame + frames);
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

async function columns(
  source: PcmSource,
  { sound, startFrame, endFrame, count }: TaskOf<'columns'>,
): Promise<Float32Array> {
  if ((endFrame - startFrame) / count < BUCKET_FRAMES) {
    return closeColumns(source, startFrame, endFrame, count);
  }
  return withPyramid(source, sound, async (pyramid) =>
    packColumns(await readColumns(pyramid, startFrame, endFrame, count)),
  );
}

/** The pyramid of a source is stored; that of a shaped sound is made when it is first wanted. */
async function withPyramid<T>(
  source: PcmSource,
  sound: ListenedSound,
  work: (pyramid: ByteSource) => Promise<T>,
): Promise<T> {
  const isShaped = sound.recipe !== null && active(sound.recipe).length > 0;
  if (!isShaped) return withFile(sound.peaks, work);
  return work(memorySource(await pyramidOf(source, sound)));
}
