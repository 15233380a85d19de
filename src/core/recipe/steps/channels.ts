import * as yup from 'yup';
import {
  keepMatrix,
  mixChannels,
  monoMatrix,
  stereoMatrix,
  swapMatrix,
  type Matrix,
} from '../../dsp/channels';
import { layoutName } from '../../tradeNames';
import type { StepKind } from '../types';

/** What can be done with the channels of a sound. */
const modes = {
  left: { matrix: (count) => keepMatrix(count, 0), sentence: () => 'keep the left channel' },
  right: { matrix: (count) => keepMatrix(count, 1), sentence: () => 'keep the right channel' },
  mix: {
    matrix: monoMatrix,
    sentence: (count) =>
      count > 2 ? `mix ${layoutName(count)} down to mono` : 'mix both channels to mono',
  },
  stereo: {
    matrix: (count) => (count === 2 ? null : stereoMatrix(count)),
    sentence: (count) =>
      count > 2 ? `mix ${layoutName(count)} down to stereo` : 'copy mono to both channels',
  },
  swap: { matrix: swapMatrix, sentence: () => 'exchange left and right' },
  keep: {
    matrix: (count, channel) => keepMatrix(count, channel - 1),
    sentence: (_, channel) => `keep channel ${channel}`,
  },
} satisfies Record<
  string,
  {
    /** null leaves everything as it is. */
    matrix(count: number, channel: number): Matrix | null;
    sentence(count: number, channel: number): string;
  }
>;

export type ChannelMode = keyof typeof modes;

export interface ChannelsParams {
  mode: ChannelMode;
  /** Which one to keep, from 1; only for `keep`. */
  channel?: number | undefined;
}

export const channels: StepKind<ChannelsParams> = {
  kind: 'channels',
  name: 'Channels',
  params: yup.object({
    mode: yup
      .mixed<ChannelMode>()
      .oneOf(Object.keys(modes) as ChannelMode[])
      .required(),
    channel: yup.number().integer().min(1).max(64),
  }),
  describe: ({ mode, channel = 1 }, { channelCount }) =>
    modes[mode].sentence(channelCount, channel),
  shape: (before, params) => ({
    ...before,
    channelCount: matrixOf(params, before.channelCount)?.length ?? before.channelCount,
  }),
  apply(pcm, params) {
    const matrix = matrixOf(params, pcm.channelCount);
    return matrix ? mixChannels(pcm, matrix) : pcm;
  },
};

function matrixOf({ mode, channel = 1 }: ChannelsParams, channelCount: number): Matrix | null {
  // Left, right or mix of a mono sound is that sound.
  if (channelCount === 1 && mode !== 'stereo' && mode !== 'keep' && mode !== 'swap') return null;
  return modes[mode].matrix(channelCount, channel);
}
