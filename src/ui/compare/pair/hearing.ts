import { create } from 'zustand';
import { difference, matchingGains } from '@/core/compare/hearing';
import { InStepPlayer, type Track } from '@/player/inStep';
import { toast } from 'sonner';
import { toggle, useListening } from '../../strip/listening';
import { readSide, type Side } from './sides';

/** A stretch of the sound, in seconds. */
export interface Stretch {
  from: number;
  to: number;
}

interface Hearing {
  isPlaying: boolean;
  /** Key of what is heard. */
  heard: string;
  /** By how much each is turned down to be as loud as the quietest, in dB, and up to be heard at all. */
  gains: Readonly<Record<string, number>>;
}

export const DIFFERENCE = 'difference';

export const useHearing = create<Hearing>(() => ({ isPlaying: false, heard: '', gains: {} }));

let player: InStepPlayer | null = null;
let asked: AbortController | null = null;

/** Plays a stretch of both sides and their difference in step, around and around. */
export async function hear(sides: readonly [Side, Side], { from, to }: Stretch): Promise<void> {
  asked?.abort();
  const abort = new AbortController();
  asked = abort;
  // One thing is heard at a time.
  if (useListening.getState().playing) toggle();
  const rateHz = sides[0].trial.measured!.sound.sampleRateHz;
  const start = Math.round(from * rateHz);
  const frames = Math.round((to - from) * rateHz);
  try {
    const [left, right] = await Promise.all(
      sides.map((side) => readSide(side, start, frames, abort.signal)),
    );
    if (abort.signal.aborted || !left || !right) return;
    const known = useHearing.getState().heard;
    const tracks = tracksOf(sides, left, right, rateHz);
    const heard = tracks.some(({ key }) => key === known) ? known : sides[0].key;
    player ??= new InStepPlayer();
    player.setVolume(useListening.getState().volume);
    await player.play(tracks, rateHz, heard);
    const gains = Object.fromEntries(tracks.map(({ key, gainDb }) => [key, gainDb]));
    useHearing.setState({ isPlaying: true, heard, gains });
  } catch (error) {
    if (abort.signal.aborted) return;
    quiet();
    toast.error(error instanceof Error ? error.message : String(error));
  }
}

function tracksOf(
  [a, b]: readonly [Side, Side],
  left: Float32Array[],
  right: Float32Array[],
  rateHz: number,
): Track[] {
  const [leftDb, rightDb] = matchingGains([left, right], rateHz);
  const own = [
    { key: a.key, channels: left, gainDb: leftDb! },
    { key: b.key, channels: right, gainDb: rightDb! },
  ];
  // Of mono against stereo there is none.
  if (left.length !== right.length) return own;
  return [...own, { key: DIFFERENCE, ...difference(left, right) }] as Track[];
}

/** Hears another one at the same place. */
export function hearOther(key: string): void {
  player?.switchTo(key);
  useHearing.setState({ heard: key });
}

export function quiet(): void {
  asked?.abort();
  player?.stop();
  useHearing.setState({ isPlaying: false });
}
