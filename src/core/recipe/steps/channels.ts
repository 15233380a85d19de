import * as yup from 'yup';
import { changeChannels, channelModes, channelsAfter, type ChannelMode } from '../../dsp/channels';
import { BijouError } from '../../errors';
import type { StepKind } from '../types';

export interface ChannelsParams {
  mode: ChannelMode;
}

const sentences: Record<ChannelMode, string> = {
  left: 'keep the left channel',
  right: 'keep the right channel',
  mix: 'mix both channels to mono',
  stereo: 'copy mono to both channels',
};

export const channels: StepKind<ChannelsParams> = {
  kind: 'channels',
  name: 'Channels',
  params: yup.object({
    mode: yup
      .mixed<ChannelMode>()
      .oneOf([...channelModes])
      .required(),
  }),
  describe: ({ mode }) => sentences[mode],
  shape(before, { mode }) {
    if (before.channelCount > 2) {
      throw new BijouError(
        'not-legal',
        `A sound with ${before.channelCount} channels cannot be turned into mono or stereo yet.`,
        'Use a mono or stereo sound, or write WAV with all its channels.',
      );
    }
    return { ...before, channelCount: channelsAfter(mode) };
  },
  apply: (pcm, { mode }) => changeChannels(pcm, mode),
};
