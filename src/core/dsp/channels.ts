import { BijouError } from '../errors';
import type { Block } from '../pcm/pcm';
import type { PcmSource } from '../pcm/source';
import { speakersOf, type Speaker } from '../pcm/speakers';
import type { Shape } from '../recipe/types';

/** One row of gains per channel that comes out, one gain per channel that goes in. */
export type Matrix = readonly (readonly number[])[];

/** Multiplies every frame by a matrix. A row of one 1 and zeros passes a channel on untouched. */
export function mixChannels(source: PcmSource, matrix: Matrix): PcmSource {
  const copied = matrix.map(copiedChannel);
  return {
    ...source,
    channelCount: matrix.length,
    speakerMask: undefined,
    gridBits: copied.every((channel) => channel >= 0) ? source.gridBits : null,
    async *from(startFrame) {
      for await (const block of source.from(startFrame)) {
        yield matrix.map((gains, row) => block[copied[row]!] ?? mixed(block, gains));
      }
    },
  };
}

/** The only channel that a row passes on as it is; −1 when it mixes. */
function copiedChannel(gains: readonly number[]): number {
  const used = gains.flatMap((gain, channel) => (gain === 0 ? [] : [channel]));
  return used.length === 1 && gains[used[0]!] === 1 ? used[0]! : -1;
}

function mixed(block: Block, gains: readonly number[]): Float32Array {
  const out = new Float32Array(block[0]?.length ?? 0);
  gains.forEach((gain, c) => {
    const channel = block[c];
    if (gain === 0 || !channel) return;
    for (let i = 0; i < out.length; i++) out[i]! += gain * channel[i]!;
  });
  return out;
}

const MINUS_3_DB = Math.SQRT1_2;

/** What each speaker gives to left and right of a stereo downmix (ITU-R BS.775-3, annex 4, table 2). */
const toLeft: Partial<Record<Speaker, number>> = {
  L: 1,
  R: 0,
  C: MINUS_3_DB,
  LFE: 0,
  Ls: MINUS_3_DB,
  Rs: 0,
  Lb: MINUS_3_DB,
  Rb: 0,
  Cb: MINUS_3_DB * MINUS_3_DB,
};
const mirrored: Partial<Record<Speaker, Speaker>> = {
  L: 'R', R: 'L', C: 'C', LFE: 'LFE', Ls: 'Rs', Rs: 'Ls', Lb: 'Rb', Rb: 'Lb', Cb: 'Cb',
}; // prettier-ignore

/** Channels with the speakers that somebody stated for them. */
export type Layout = Pick<Shape, 'channelCount' | 'speakerMask'>;

/** Stereo from any layout, scaled so that it cannot clip. @throws not-legal for unknown layouts. */
export function stereoMatrix(layout: Layout): Matrix {
  if (layout.channelCount === 1) return [[1], [1]];
  const sides = sidesOf(layout);
  return [sides.map(({ left }) => left), sides.map(({ right }) => right)].map(withoutClipping);
}

/** Mono from any layout: both sides of the stereo downmix together, scaled so that it cannot clip. */
export function monoMatrix(layout: Layout): Matrix {
  if (layout.channelCount === 1) return [[1]];
  return [withoutClipping(sidesOf(layout).map(({ left, right }) => left + right))];
}

/** What each channel gives to both sides. */
function sidesOf({ channelCount, speakerMask }: Layout): { left: number; right: number }[] {
  const speakers = speakersOf(channelCount, speakerMask);
  if (!speakers) throw unknown(channelCount);
  return speakers.map((speaker) => {
    const left = toLeft[speaker];
    const right = toLeft[mirrored[speaker] ?? speaker];
    if (left === undefined || right === undefined) throw unmixable(speaker);
    return { left, right };
  });
}

/** Whether a layout can be mixed down: the standard has a place for all its speakers. */
export function isMixable(speakers: readonly Speaker[] | null): boolean {
  return speakers?.every((speaker) => toLeft[speaker] !== undefined) ?? false;
}

function withoutClipping(gains: readonly number[]): number[] {
  const most = gains.reduce((sum, gain) => sum + gain, 0);
  return gains.map((gain) => gain / Math.max(1, most));
}

/** One channel by its place, from 0. @throws not-legal where there is none. */
export function keepMatrix(channelCount: number, channel: number): Matrix {
  if (channel >= 0 && channel < channelCount) {
    return [Array.from({ length: channelCount }, (_, c) => (c === channel ? 1 : 0))];
  }
  throw new BijouError(
    'not-legal',
    `The sound has no channel ${channel + 1}; it has ${channelCount}.`,
    'Choose one of its channels.',
  );
}

/** Left and right exchanged. @throws not-legal unless there are two channels. */
export function swapMatrix(channelCount: number): Matrix {
  if (channelCount === 2) {
    return [
      [0, 1],
      [1, 0],
    ];
  }
  throw new BijouError(
    'not-legal',
    'Only the channels of a stereo sound can be exchanged.',
    'Leave that step out for this sound.',
  );
}

function unknown(channelCount: number): BijouError {
  return new BijouError(
    'not-legal',
    `Nobody has said which speakers ${channelCount} channels are for, so they cannot be mixed.`,
    'Keep one channel, or write a format with all of them.',
  );
}

function unmixable(speaker: Speaker): BijouError {
  return new BijouError(
    'not-legal',
    `No standard says how the speaker ${speaker} is mixed down.`,
    'Keep one channel, or write a format with all of them.',
  );
}
