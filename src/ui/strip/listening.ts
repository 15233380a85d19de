import { create } from 'zustand';
import { toast } from 'sonner';
import { fetchAhead, type Listenable } from '@/player/source';
import { courseOf, type Course, type Place, type Range } from '@/player/course';
import { Player } from '@/player/engine';

/** One of the forms of a sound that ears can compare. */
export interface Version extends Listenable {
  /** Tells whether it is still the same samples: a recipe may have changed under the same key. */
  content: string;
  label: string;
  /** LUFS, or RMS in dBFS where it has none; null while it is not known. */
  loudness: number | null;
  /** The frame of the source that a frame came from, and the other way round: versions are compared there. */
  toSource(frame: number): number;
  fromSource(frame: number): number;
  /** Where it lies in the picture, and the other way round, where that shows other frames. */
  toPicture?(frame: number): number;
  fromPicture?(frame: number): number;
}

/** Something with sounds of its own that is heard through the strip: its level, its lamp, its button to stop. */
export interface Guest {
  title: string;
  /** Largest absolute sample of the last few milliseconds, before the level. */
  peak(): number;
  setVolume(volume: number): void;
  /** Ends everything that sounds. */
  stop(): void;
}

interface Listening {
  title: string | null;
  versions: Version[];
  /** Key of the version that is heard. */
  current: string | null;
  /** What is played of the current version; null for all of it. */
  range: Range | null;
  /** Several stretches of it in their order, in place of a range. */
  course: Course | null;
  playing: boolean;
  loop: boolean;
  /** Whether louder versions are turned down to the quietest. */
  isMatched: boolean;
  volume: number;
  /** Where playback is or will go on, in frames of the current version. */
  frame: number;
  /** Who is heard in the place of versions. */
  guest: Guest | null;
}

export const useListening = create<Listening>(() => ({
  title: null,
  versions: [],
  current: null,
  range: null,
  course: null,
  playing: false,
  loop: false,
  isMatched: false,
  volume: 1,
  frame: 0,
  guest: null,
}));

let player: Player | null = null;

function engine(): Player {
  player ??= new Player((problem) => {
    const { range, course } = useListening.getState();
    const first = course?.once[0] ?? course?.around[0] ?? range;
    useListening.setState({ playing: false, frame: first?.start ?? 0 });
    if (problem) toast.error(problem);
  });
  return player;
}

export function currentVersion(state: Listening): Version | null {
  return state.versions.find((version) => version.key === state.current) ?? null;
}

/** Has somebody heard through the strip in the place of versions, until the answer is called. */
export function beHeard(guest: Guest): () => void {
  if (useListening.getState().playing) engine().stop();
  guest.setVolume(useListening.getState().volume);
  useListening.setState({ guest });
  return () => {
    if (useListening.getState().guest === guest) useListening.setState({ guest: null });
  };
}

/** Puts a sound into the strip without playing it. What is heard of it already goes on. */
export function cue(title: string, versions: Version[], key?: string): void {
  const state = useListening.getState();
  const before = currentVersion(state);
  const chosen = versions.find((version) => version.key === key) ?? versions[0];
  const same = versions.find((version) => version.key === state.current);
  if (before && same && state.title === title && (key === undefined || key === same.key)) {
    useListening.setState({ versions });
    if (state.isMatched) engine().setVolume(loudnessNow());
    if (same.content !== before.content) goOn(before, same);
    return;
  }
  if (state.playing) engine().stop();
  const current = chosen?.key ?? null;
  useListening.setState({ title, versions, current, range: null, course: null, frame: 0 });
}

/** Makes ready what is probably heard next: the first of the versions is the source, which never changes. */
export function prepare([source]: readonly Version[]): void {
  if (source) fetchAhead(source);
}

/** Makes ready to play what is in the strip, for screens on which it surely will be. */
export function makeReady(): void {
  const version = currentVersion(useListening.getState());
  if (version) engine().prepare(version.rateHz);
}

/** How much a version is turned down, as a factor, to be as loud as the quietest. */
export function matchGain(versions: readonly Version[], version: Version): number {
  const known = versions.flatMap(({ loudness }) => (loudness === null ? [] : [loudness]));
  if (version.loudness === null || known.length < 2) return 1;
  return 10 ** ((Math.min(...known) - version.loudness) / 20);
}

function loudnessNow(): number {
  const state = useListening.getState();
  const version = currentVersion(state);
  return state.volume * (version && state.isMatched ? matchGain(state.versions, version) : 1);
}

/** The stretches that are played as the strip is set. */
function courseNow({ course, range, loop }: Listening, version: Version): Course {
  return course ?? courseOf(range ?? { start: 0, end: version.frames }, loop);
}

/** Plays the current version from `frame`, or from where it was left. Another range ends a course. */
export function play(
  options: { frame?: number; range?: Range | null; course?: Course | null } = {},
): void {
  const before = useListening.getState();
  const version = currentVersion(before);
  if (!version) return;
  const range = options.range === undefined ? before.range : options.range;
  const isElsewhere = options.range !== undefined && options.course === undefined;
  const course = isElsewhere ? null : (options.course ?? before.course);
  const frame = options.frame ?? before.frame;
  useListening.setState({ playing: true, range, course, frame });
  engine().setVolume(loudnessNow());
  void engine().play(version, courseNow(useListening.getState(), version), frame);
}

/** Goes on with what the strip is set to now, without a break where that can be. */
function goOnSteered(): void {
  const state = useListening.getState();
  const version = currentVersion(state);
  if (!version || !state.playing) return;
  if (!engine().steer(version, courseNow(state, version))) play();
}

/** Hears several stretches of a version from their beginning. */
export function follow(key: string, course: Course): void {
  useListening.setState({ current: key, range: null, course });
  play({ frame: (course.once[0] ?? course.around[0])?.start ?? 0, course });
}

/** Other stretches in place of those that are heard: without a break, from where one is. */
export function redirect(course: Course): void {
  useListening.setState({ course });
  goOnSteered();
}

/** Stops and stays where it is. */
function pause(): void {
  const frame = engine().position();
  engine().stop();
  if (frame !== null) useListening.setState({ frame });
}

export function toggle(): void {
  const { guest } = useListening.getState();
  if (guest) guest.stop();
  else if (useListening.getState().playing) pause();
  else play();
}

/** Changes to another version at the same place in the source. */
export function switchTo(key: string): void {
  const state = useListening.getState();
  const before = currentVersion(state);
  const after = state.versions.find((version) => version.key === key);
  if (!before || !after || before === after) return;
  goOn(before, after);
}

/** From one version, or what it was before it was changed, to another: where one listens stays. */
function goOn(before: Version, after: Version): void {
  const { playing, range, frame, course } = useListening.getState();
  // Whoever has set the stretches sets them anew.
  if (course && before.key === after.key) return;
  const through = (at: number) =>
    Math.min(after.frames, Math.max(0, Math.round(after.fromSource(before.toSource(at)))));
  const ends = range && [through(range.start), through(range.end)].sort((a, b) => a - b);
  const next = ends && ends[1]! > ends[0]! ? { start: ends[0]!, end: ends[1]! } : null;
  const at = Math.min(after.frames - 1, through(engine().position() ?? frame));
  useListening.setState({ current: after.key, range: next, course: null, frame: at });
  if (playing) play({ frame: at, range: next });
}

export function setLoop(loop: boolean): void {
  useListening.setState({ loop });
  goOnSteered();
}

export function setVolume(volume: number): void {
  useListening.setState({ volume });
  useListening.getState().guest?.setVolume(volume);
  engine().setVolume(loudnessNow());
}

export function setMatched(isMatched: boolean): void {
  useListening.setState({ isMatched });
  engine().setVolume(loudnessNow());
}

/** The frame that is heard now, or where playback will go on. */
export function position(): number {
  return engine().position() ?? useListening.getState().frame;
}

/** Where one is on what is played; null while nothing is. */
export function placeNow(): Place | null {
  return useListening.getState().playing ? engine().place() : null;
}

export function peak(): number {
  const { guest, playing } = useListening.getState();
  if (guest) return guest.peak();
  return playing ? engine().peak() : 0;
}
