import * as yup from 'yup';
import {
  keepMatrix,
  mixChannels,
  monoMatrix,
  stereoMatrix,
  swapMatrix,
  type Layout,
  type Matrix,
} from '../../dsp/channels';
import { layoutName } from '../../tradeNames';
import type { StepKind } from '../types';
import { oneOfKeys, optionsOf } from './choice';

/** What can be done with the channels of a sound. */
const modes = {
  left: {
    label: 'Keep left',
    matrix: ({ channelCount }) => keepMatrix(channelCount, 0),
    sentence: () => 'keep the left channel',
  },
  right: {
    label: 'Keep right',
    matrix: ({ channelCount }) => keepMatrix(channelCount, 1),
    sentence: () => 'keep the right channel',
  },
  mix: {
    label: 'Mix to mono',
    matrix: monoMatrix,
    sentence: (count) =>
      count > 2 ? `mix ${layoutName(count)} down to mono` : 'mix both channels to mono',
  },
  stereo: {
    label: 'To stereo',
    matrix: (layout) => (layout.channelCount === 2 ? null : stereoMatrix(layout)),
    sentence: (count) =>
      count > 2 ? `mix ${layoutName(count)} down to stereo` : 'copy mono to both channels',
  },
  swap: {
    label: 'Exchange left and right',
    matrix: ({ channelCount }) => swapMatrix(channelCount),
    sentence: () => 'exchange left and right',
  },
  keep: {
    label: 'Keep one channel by its number',
    matrix: ({ channelCount }, channel) => keepMatrix(channelCount, channel - 1),
    sentence: (_, channel) => `keep channel ${channel}`,
  },
} satisfies Record<
  string,
  {
    /** null leaves everything as it is. */
    matrix(layout: Layout, channel: number): Matrix | null;
    sentence(count: number, channel: number): string;
    /** In a list of choices. */
    label: string;
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
  purpose: 'channels',
  hint: 'keeps one side, mixes to mono, copies to stereo or swaps the sides',
  fields: [
    {
      name: 'mode',
      label: 'Do',
      type: 'choice',
      options: optionsOf(modes, ({ label }) => label),
    },
    {
      name: 'channel',
      label: 'Channel',
      type: 'number',
      unit: '',
      min: 1,
      max: 64,
      isOptional: true,
      when: ['mode', 'keep'],
    },
  ],
  defaults: ({ channelCount }) => ({ mode: channelCount === 1 ? 'stereo' : 'mix' }),
  params: yup.object({
    mode: oneOfKeys(modes).required(),
    channel: yup.number().integer().min(1).max(64),
  }),
  describe: ({ mode, channel = 1 }, { channelCount }) =>
    modes[mode].sentence(channelCount, channel),
  shape(before, params) {
    const matrix = matrixOf(params, before);
    if (!matrix) return before;
    const { rateHz, frames } = before;
    return { rateHz, frames, channelCount: matrix.length };
  },
  peakAtMost: (before) => before,
  apply(source, params) {
    const matrix = matrixOf(params, source);
    return matrix ? mixChannels(source, matrix) : source;
  },
};

function matrixOf({ mode, channel = 1 }: ChannelsParams, layout: Layout): Matrix | null {
  // Left, right or mix of a mono sound is that sound.
  const isMono = layout.channelCount === 1;
  if (isMono && mode !== 'stereo' && mode !== 'keep' && mode !== 'swap') return null;
  return modes[mode].matrix(layout, channel);
}
