/** Speakers as WAVE_FORMAT_EXTENSIBLE names them, in the order in which everything inside Bijou lists channels. */
export type Speaker =
  | 'L' | 'R' | 'C' | 'LFE' | 'Lb' | 'Rb' | 'Lc' | 'Rc' | 'Cb' | 'Ls' | 'Rs'
  | 'Tc' | 'Tfl' | 'Tfc' | 'Tfr' | 'Tbl' | 'Tbc' | 'Tbr'; // prettier-ignore

/** The usual layout for a number of channels; null where there is none. */
const layouts: Record<number, readonly Speaker[]> = {
  1: ['C'],
  2: ['L', 'R'],
  3: ['L', 'R', 'C'],
  4: ['L', 'R', 'Lb', 'Rb'],
  5: ['L', 'R', 'C', 'Ls', 'Rs'],
  6: ['L', 'R', 'C', 'LFE', 'Ls', 'Rs'],
  7: ['L', 'R', 'C', 'LFE', 'Cb', 'Ls', 'Rs'],
  8: ['L', 'R', 'C', 'LFE', 'Lb', 'Rb', 'Ls', 'Rs'],
};

/** Bits of WAVE_FORMAT_EXTENSIBLE's speaker mask, lowest first. */
const maskOrder: readonly Speaker[] = [
  'L', 'R', 'C', 'LFE', 'Lb', 'Rb', 'Lc', 'Rc', 'Cb', 'Ls', 'Rs',
  'Tc', 'Tfl', 'Tfc', 'Tfr', 'Tbl', 'Tbc', 'Tbr',
]; // prettier-ignore

/**
 * The mask of the usual layout, which readers of most formats assume; 0 where there is none. 5.0 and 5.1 put
 * their surrounds at the back, as is usual.
 */
export function usualMask(channelCount: number): number {
  const masks: Record<number, number> = {
    1: 0x4, 2: 0x3, 3: 0x7, 4: 0x33, 5: 0x37, 6: 0x3f, 7: 0x70f, 8: 0x63f,
  }; // prettier-ignore
  return masks[channelCount] ?? 0;
}

/**
 * Speakers of a stated mask, those of the usual layout without one; null where a channel has none. Surrounds
 * at the back of a usual 5.0 or 5.1 layout are its surrounds.
 */
export function speakersOf(channelCount: number, mask = 0): readonly Speaker[] | null {
  if (mask === 0 || mask === usualMask(channelCount)) return layouts[channelCount] ?? null;
  const found = maskOrder.filter((_, bit) => mask & (1 << bit));
  // Bits beyond the number of channels mean nothing.
  return found.length >= channelCount ? found.slice(0, channelCount) : null;
}

/** The mask that states these speakers; 0 for the usual layout, and for none. */
export function maskOf(speakers: readonly Speaker[] | null): number {
  if (!speakers || speakersOf(speakers.length)?.join() === speakers.join()) return 0;
  return speakers.reduce((mask, speaker) => mask | (1 << maskOrder.indexOf(speaker)), 0);
}

/** Whether a mask says something else than what readers assume without it. Mono is mono, whatever it states. */
export function isUnusualMask(mask: number | undefined, channelCount: number): mask is number {
  return channelCount > 1 && mask !== undefined && mask !== 0 && mask !== usualMask(channelCount);
}

/**
 * Order in which Vorbis and Opus store channels (Vorbis I, 4.3.9; RFC 7845, 5.1.1.2): for each channel
 * of ours the place where it lies in the stream.
 */
const vorbisPlaces: Record<number, readonly number[]> = {
  3: [0, 2, 1],
  5: [0, 2, 1, 3, 4],
  6: [0, 2, 1, 5, 3, 4],
  7: [0, 2, 1, 6, 5, 3, 4],
  8: [0, 2, 1, 7, 5, 6, 3, 4],
};

/** Puts the channels of a Vorbis or Opus stream into our order. */
export function fromVorbisOrder<T>(channels: readonly T[]): readonly T[] {
  const places = vorbisPlaces[channels.length];
  return places ? places.map((place) => channels[place]!) : channels;
}
