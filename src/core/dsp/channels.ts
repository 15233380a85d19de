import { BijouError } from '../errors';
import type { Block, PcmStream } from '../pcm/pcm';

/** What can be done with the channels of a sound. */
export const channelModes = ['left', 'right', 'mix', 'stereo'] as const;
export type ChannelMode = (typeof channelModes)[number];

/** How many channels come out, given how many go in. */
export function channelsAfter(mode: ChannelMode): 1 | 2 {
  return mode === 'stereo' ? 2 : 1;
}

/**
 * Left or right keeps one channel untouched, mix is the mean of two (it cannot clip), stereo copies
 * a mono sound to both sides. A sound that already has the layout passes through unchanged.
 * @throws not-legal for layouts of more than two channels.
 */
export function changeChannels(pcm: PcmStream, mode: ChannelMode): PcmStream {
  if (pcm.channelCount > 2) throw tooMany(pcm.channelCount);
  if (pcm.channelCount === channelsAfter(mode)) return pcm;
  const change = changes[mode];
  async function* blocks(): AsyncGenerator<Block> {
    for await (const block of pcm.blocks) yield change(block);
  }
  return {
    ...pcm,
    channelCount: channelsAfter(mode),
    gridBits: mode === 'mix' ? null : pcm.gridBits,
    blocks: blocks(),
  };
}

const changes: Record<ChannelMode, (block: Block) => Block> = {
  left: (block) => block.slice(0, 1),
  right: (block) => block.slice(1, 2),
  stereo: ([only]) => (only ? [only, only] : []),
  mix: ([left, right]) => {
    if (!left || !right) return [];
    const mixed = new Float32Array(left.length);
    for (let i = 0; i < mixed.length; i++) mixed[i] = (left[i]! + right[i]!) * 0.5;
    return [mixed];
  },
};

function tooMany(count: number): BijouError {
  return new BijouError(
    'not-legal',
    `A sound with ${count} channels cannot be turned into mono or stereo yet.`,
    'Use a mono or stereo sound, or write WAV with all its channels.',
  );
}
