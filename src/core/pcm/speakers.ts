/** Speakers in the order in which WAV, and everything inside Bijou, lists its channels. */
export type Speaker = 'L' | 'R' | 'C' | 'LFE' | 'Ls' | 'Rs' | 'Lb' | 'Rb' | 'Cb';

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

export function speakersOf(channelCount: number): readonly Speaker[] | null {
  return layouts[channelCount] ?? null;
}

/** Bits of WAVE_FORMAT_EXTENSIBLE's speaker mask, lowest first. */
const maskOrder: readonly (Speaker | null)[] = [
  'L', 'R', 'C', 'LFE', 'Lb', 'Rb', null, null, 'Cb', 'Ls', 'Rs',
]; // prettier-ignore

/** The mask that WAV states for a layout. 4.0 to 5.1 put their surrounds at the back, as is usual. */
export function speakerMask(channelCount: number): number {
  const masks: Record<number, number> = {
    1: 0x4, 2: 0x3, 3: 0x7, 4: 0x33, 5: 0x37, 6: 0x3f, 7: 0x70f, 8: 0x63f,
  }; // prettier-ignore
  return masks[channelCount] ?? 0;
}

/** Speakers of a stated mask. Surrounds at the back of a 5.0 or 5.1 layout are its surrounds. */
export function speakersOfMask(mask: number, channelCount: number): readonly Speaker[] | null {
  if (mask === 0 || mask === speakerMask(channelCount)) return speakersOf(channelCount);
  const found = maskOrder.filter((speaker, bit) => speaker !== null && mask & (1 << bit));
  return found.length === channelCount ? (found as Speaker[]) : null;
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
