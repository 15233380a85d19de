import { create } from 'zustand';
import { difference, gainLike, matchingGains } from '@/core/compare/hearing';
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
/** Where the stretch that plays begins in the sound, in seconds. */
let stretchFrom = 0;
let asked: AbortController | null = null;
/** What plays in step, by its key. */
const playing = new Map<string, Track>();

/**
 * Plays a stretch of both sides and their difference in step, around and around; the other candidates come to them one
 * by one, so that any of them can be gone to without a gap.
 */
export async function hear(
  sides: readonly [Side, Side],
  others: readonly Side[],
  { from, to }: Stretch,
): Promise<void> {
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
    playing.clear();
    for (const track of tracks) playing.set(track.key, track);
    const heard = tracks.some(({ key }) => key === known) ? known : sides[0].key;
    player ??= new InStepPlayer();
    player.setVolume(useListening.getState().volume);
    stretchFrom = start / rateHz;
    await player.play(tracks, rateHz, heard);
    const gains = Object.fromEntries(tracks.map(({ key, gainDb }) => [key, gainDb]));
    useHearing.setState({ isPlaying: true, heard, gains });
    for (const other of others) {
      if (gains[other.key] !== undefined) continue;
      const channels = await readSide(other, start, frames, abort.signal);
      if (abort.signal.aborted) return;
      const gainDb = gainLike(channels, tracks[0]!, rateHz);
      put({ key: other.key, channels, gainDb });
    }
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

function put(track: Track): void {
  playing.set(track.key, track);
  player?.put(track);
  useHearing.setState(({ gains }) => ({ gains: { ...gains, [track.key]: track.gainDb } }));
}

/** Takes two that already play for the pair, with the difference of these; answers whether both do. */
export function pairUp([a, b]: readonly [Side, Side]): boolean {
  const [left, right] = [playing.get(a.key), playing.get(b.key)];
  // A source in mono is another one.
  if (left?.channels.length !== right?.channels.length || !left || !right) return false;
  put({ key: DIFFERENCE, ...difference(left.channels, right.channels) });
  return true;
}

/** What is heard now, in seconds of the sound; null while nothing is. */
export function heardPlace(): number | null {
  const place = player?.position() ?? null;
  return place === null ? null : stretchFrom + place;
}

/** Hears another one at the same place. */
export function hearOther(key: string): void {
  player?.switchTo(key);
  useHearing.setState({ heard: key });
}

export function quiet(): void {
  asked?.abort();
  player?.stop();
  playing.clear();
  useHearing.setState({ isPlaying: false });
}
