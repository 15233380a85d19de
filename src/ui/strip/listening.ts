import { create } from 'zustand';
import { toast } from 'sonner';
import { fetchAhead, type Listenable } from '@/player/source';
import { Player, type Range } from '@/player/engine';

/** One of the forms of a sound that ears can compare. */
export interface Version extends Listenable {
  label: string;
}

interface Listening {
  title: string | null;
  versions: Version[];
  /** Key of the version that is heard. */
  current: string | null;
  /** What is played of the current version; null for all of it. */
  range: Range | null;
  playing: boolean;
  loop: boolean;
  volume: number;
  /** Where playback is or will go on, in frames of the current version. */
  frame: number;
}

export const useListening = create<Listening>(() => ({
  title: null,
  versions: [],
  current: null,
  range: null,
  playing: false,
  loop: false,
  volume: 1,
  frame: 0,
}));

let player: Player | null = null;

function engine(): Player {
  player ??= new Player((problem) => {
    const { range } = useListening.getState();
    useListening.setState({ playing: false, frame: range?.start ?? 0 });
    if (problem) toast.error(problem);
  });
  return player;
}

export function currentVersion(state: Listening): Version | null {
  return state.versions.find((version) => version.key === state.current) ?? null;
}

/** Puts a sound into the strip without playing it. */
export function cue(title: string, versions: Version[], key?: string): void {
  const state = useListening.getState();
  const chosen = versions.find((v) => v.key === key) ?? versions[0];
  if (state.current === chosen?.key && state.title === title) {
    useListening.setState({ versions });
    return;
  }
  if (state.playing) engine().stop();
  useListening.setState({ title, versions, current: chosen?.key ?? null, range: null, frame: 0 });
}

/** Makes ready what is probably heard next: the first of the versions is the source, which never changes. */
export function prepare([source]: readonly Version[]): void {
  if (source) fetchAhead(source);
}

/** Plays the current version from `frame`, or from where it was left. */
export function play(options: { frame?: number; range?: Range | null } = {}): void {
  const state = useListening.getState();
  const version = currentVersion(state);
  if (!version) return;
  const range = options.range === undefined ? state.range : options.range;
  const whole = range ?? { start: 0, end: version.frames };
  const frame = options.frame ?? state.frame;
  useListening.setState({ playing: true, range, frame });
  engine().setLoop(state.loop);
  engine().setVolume(state.volume);
  void engine().play(version, whole, frame);
}

/** Stops and stays where it is. */
function pause(): void {
  const frame = engine().position();
  engine().stop();
  if (frame !== null) useListening.setState({ frame });
}

export function toggle(): void {
  if (useListening.getState().playing) pause();
  else play();
}

/** Changes to another version at the same place in the source. */
export function switchTo(key: string): void {
  const state = useListening.getState();
  const before = currentVersion(state);
  const after = state.versions.find((version) => version.key === key);
  if (!before || !after || before === after) return;
  const at = engine().position() ?? state.frame;
  const seconds = at / before.rateHz + before.offsetSeconds - after.offsetSeconds;
  const frame = Math.min(after.frames - 1, Math.max(0, Math.round(seconds * after.rateHz)));
  useListening.setState({ current: key, range: null, frame });
  if (state.playing) play({ frame, range: null });
}

export function setLoop(loop: boolean): void {
  useListening.setState({ loop });
  const { playing } = useListening.getState();
  // What is scheduled already would end all the same: begin again at the same place.
  if (playing) play({ frame: engine().position() ?? 0 });
}

export function setVolume(volume: number): void {
  useListening.setState({ volume });
  engine().setVolume(volume);
}

/** The frame that is heard now, or where playback will go on. */
export function position(): number {
  return engine().position() ?? useListening.getState().frame;
}

export function peak(): number {
  return useListening.getState().playing ? engine().peak() : 0;
}
