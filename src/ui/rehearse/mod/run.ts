import { createStore } from 'zustand/vanilla';
import type { LoadedSound } from '@/core/host/kind';
import { playedPitch } from '@/core/host/mod/calls';
import { islandPlaces, type IslandPlace } from '@/core/host/mod/places';
import { clockText, ISLAND_PACE, turn, turnAfter } from '@/core/host/mod/tide';
import type { Call, PathVariant } from '@/core/pack/calls/calls';
import { pickedPitch, pickedVariant } from '@/core/pack/calls/pick';
import type { LoadedPack } from '@/player/host/messages';
import type { Rehearsal } from '../rehearsing';

/** How a call is played from the board: on top of what the index says. */
export interface Playing {
  levelDb: number;
  pitch: number;
}

/** The island while one is on it. */
export interface ModRunState {
  place: IslandPlace;
  /** Seconds of the island at a time of the page’s clock, in ms. */
  clock: { islandSeconds: number; at: number };
  /** Number of the turn that is behind. */
  turned: number;
  /** The place whose music has begun, and sounds until it ends or one leaves. */
  heard: string | null;
  /** How often each variant of each call was picked, by `pickKey`. */
  picks: Readonly<Record<string, number>>;
  /** What was played last, in words. */
  last: string | null;
}

export function pickKey(callId: string, path: string): string {
  return `${callId}\n${path}`;
}

const LEAVING_SECONDS = 1.2;
const ARRIVING_SECONDS = 0.05;
/** In front of the turn that one goes to, in seconds of ours. */
const AHEAD_SECONDS = 3;
const STEP_MS = 50;

/** Walks the island, keeps its clock, begins music with the turn of the tide, and plays calls. */
export class ModRun {
  readonly store = createStore<ModRunState>(() => ({
    place: islandPlaces[0]!,
    clock: { islandSeconds: START_SECONDS, at: performance.now() },
    turned: turnAfter(START_SECONDS).number - 1,
    heard: null,
    picks: {},
    last: null,
  }));
  private readonly timer = setInterval(() => this.step(), STEP_MS);
  private readonly leave: () => void;
  private sounds: readonly LoadedSound[];
  /** What plays the music, once it has begun. */
  private music: Promise<number | null> = Promise.resolve(null);

  constructor(
    private readonly rehearsal: Rehearsal,
    { sounds }: LoadedPack,
  ) {
    this.sounds = sounds;
    this.leave = rehearsal.whenSilenced(() => this.store.setState({ heard: null }));
  }

  /** Takes a pack that was loaded again: what plays goes over into it. */
  reload({ sounds }: LoadedPack): void {
    this.sounds = sounds;
    const { heard } = this.store.getState();
    if (heard !== null && !sounds.some(({ file }) => file === heard)) {
      this.store.setState({ heard: null });
    }
  }

  /** Seconds of the island now. */
  now(): number {
    const { islandSeconds, at } = this.store.getState().clock;
    return islandSeconds + ((performance.now() - at) / 1_000) * ISLAND_PACE;
  }

  private step(): void {
    const { number } = turnAfter(this.now());
    if (number - 1 <= this.store.getState().turned) return;
    this.store.setState({ turned: number - 1 });
    this.begin();
  }

  /** The tide has turned: the music of the place begins. */
  private begin(): void {
    const { place, turned } = this.store.getState();
    const { water, at } = turn(turned);
    const music = this.musicOf(place);
    this.stopMusic(ARRIVING_SECONDS);
    const when = `${clockText(at)}, ${water} water`;
    this.rehearsal.note(
      music
        ? `${when}: ${music.file} begins at ${place.title}.`
        : `${when}: nothing begins at ${place.title}, which has no music.`,
    );
    this.store.setState({ heard: music?.file ?? null });
    if (music) {
      const { file, loop } = music;
      this.music = this.rehearsal.start(file, { loop, fadeSeconds: ARRIVING_SECONDS });
    }
  }

  /** Ends the music of a place, as soon as it has begun; a call that plays the same file goes on. */
  private stopMusic(fadeSeconds: number): void {
    void this.music.then((voice) => {
      if (voice !== null) this.rehearsal.stop(voice, fadeSeconds);
    });
    this.music = Promise.resolve(null);
  }

  musicOf({ file }: IslandPlace): LoadedSound | undefined {
    return this.sounds.find((one) => one.file === file);
  }

  /** Goes to a place: what was heard is left behind, and the music there waits for the tide. */
  walk(place: IslandPlace): void {
    if (place === this.store.getState().place) return;
    this.stopMusic(LEAVING_SECONDS);
    this.store.setState({ place, heard: null });
    this.rehearsal.note(`Walked to ${place.title}.`);
    const music = this.musicOf(place);
    if (music) void this.rehearsal.want(music.file);
  }

  /** Moves the clock on to just before the tide turns. */
  goToTurn(): void {
    const now = this.now();
    const next = turnAfter(now);
    const ahead = AHEAD_SECONDS * ISLAND_PACE;
    const islandSeconds = next.at - now > ahead ? next.at - ahead : next.at;
    this.setClock(islandSeconds);
  }

  /** Moves the clock on by hours of the island; turns that are passed happen. */
  moveOn(hours: number): void {
    this.setClock(this.now() + hours * 3_600);
  }

  private setClock(islandSeconds: number): void {
    this.store.setState({ clock: { islandSeconds, at: performance.now() } });
    this.rehearsal.note(`The clock was moved on to ${clockText(islandSeconds)}.`);
    this.step();
  }

  /** Plays a call as the game does, louder or quieter, higher or lower: a variant by its odds. */
  play(call: Call<PathVariant>, { levelDb, pitch }: Playing): void {
    const variant = pickedVariant(call, Math.random());
    const sound = this.sounds.find(({ file }) => file === variant?.path);
    if (!variant || !sound) {
      this.rehearsal.note(`${call.id}: silent, for its file was refused.`);
      this.store.setState({ last: `${call.id}: silent` });
      return;
    }
    const { from, to } = playedPitch;
    const drawn = pickedPitch(call, Math.random()) * pitch;
    const factor = Math.min(to, Math.max(from, drawn));
    const gain = 10 ** ((call.levelDb + levelDb) / 20);
    const key = pickKey(call.id, variant.path);
    const text = `${call.id}: ${variant.path}, × ${factor.toFixed(2)}`;
    this.store.setState(({ picks }) => ({
      picks: { ...picks, [key]: (picks[key] ?? 0) + 1 },
      last: text,
    }));
    this.rehearsal.note(`Played ${text}.`);
    void this.rehearsal.start(variant.path, { gain, pitch: factor });
  }

  forgetPicks(): void {
    this.store.setState({ picks: {}, last: null });
  }

  close(): void {
    this.leave();
    clearInterval(this.timer);
  }
}

/** A quarter of an hour behind the first turn, so that one has to wait for the next: as everybody has. */
const START_SECONDS = 15 * 60;
