import { createStore } from 'zustand/vanilla';
import { errorFacts, type ErrorFacts } from '@/core/errors';
import { hostById } from '@/core/host';
import { HostPlayer, type Start } from '@/player/host/hostPlayer';
import type { Brought, LoadedPack } from '@/player/host/messages';
import { PackReader } from '@/player/host/reader';
import { plural } from '../shared/format';

/** What a host is at. */
export interface Rehearsing {
  state: 'empty' | 'loading' | 'ready' | 'failed';
  brought: Brought | null;
  loaded: LoadedPack | null;
  /** Why nothing could be looked at. */
  problem: ErrorFacts | null;
  /** Sounds that are decoded, and wait to be played. */
  decoded: ReadonlySet<string>;
  /** What is other than before, where a pack was loaded again. */
  changes: readonly string[];
  /** Files that sound. */
  sounding: ReadonlySet<string>;
  /** Whether sound comes out of this machine; null while nobody has tried. */
  isAwake: boolean | null;
  isPhoneOn: boolean;
}

const none: ReadonlySet<string> = new Set();
/** Samples that are held decoded, in bytes; what is not played for longest goes first. */
const MOST_HELD_BYTES = 512 * 2 ** 20;
const BYTES_PER_SAMPLE = 4;

/** One host with a pack: looks at it, decodes what it took, and plays it. */
export class Rehearsal {
  readonly store = createStore<Rehearsing>(() => ({
    state: 'empty',
    brought: null,
    loaded: null,
    problem: null,
    decoded: none,
    changes: [],
    sounding: none,
    isAwake: null,
    isPhoneOn: false,
  }));
  player: HostPlayer | null = null;
  private readonly reader = new PackReader();
  private readonly decoding = new Map<string, Promise<boolean>>();
  private turn = 0;

  constructor(private readonly hostId: string) {}

  /** Looks at a pack. What plays of one that was there before goes on with the new files of the same names. */
  async load(brought: Brought): Promise<void> {
    const turn = ++this.turn;
    const { loaded: before } = this.store.getState();
    this.decoding.clear();
    this.begun = performance.now();
    this.store.setState({ state: 'loading', brought, problem: null });
    try {
      const loaded = await this.reader.load(this.hostId, brought);
      if (turn !== this.turn) return;
      this.fitPlayer(loaded);
      const changes = before ? this.changesSince(before, loaded) : [];
      this.store.setState({ state: 'ready', loaded, changes });
      await this.decodeAll(loaded, turn);
    } catch (error) {
      if (turn !== this.turn) return;
      this.store.setState({ state: 'failed', problem: errorFacts(error), loaded: null });
    }
  }

  /** Lets a player go that has another rate than most sounds have. */
  private fitPlayer({ sounds }: LoadedPack): void {
    if (this.player?.rateHz === commonestRate(sounds)) return;
    void this.player?.close();
    this.player = null;
    this.store.setState({ decoded: none, sounding: none });
  }

  /** The player, which is made when it is first needed: without a device for sound everything else goes on. */
  private playerNow(): HostPlayer | null {
    const { loaded, isPhoneOn } = this.store.getState();
    if (this.player || !loaded) return this.player;
    try {
      this.player = new HostPlayer(commonestRate(loaded.sounds), () => this.tellSounding());
      this.player.setPhone(isPhoneOn);
      this.player.setVolume(this.volume);
      this.player.setMuted(this.isMuted);
    } catch {
      this.store.setState({ isAwake: false });
    }
    return this.player;
  }

  private changesSince(before: LoadedPack, now: LoadedPack): string[] {
    const old = new Map(before.sounds.map((one) => [one.file, one.checksum]));
    const fresh = new Set(now.sounds.map(({ file }) => file));
    const added = now.sounds.filter(({ file }) => !old.has(file));
    const other = now.sounds.filter(
      ({ file, checksum }) => old.has(file) && old.get(file) !== checksum,
    );
    const gone = before.sounds.filter(({ file }) => !fresh.has(file));
    const decoded = new Set(this.store.getState().decoded);
    for (const { file } of [...other, ...gone]) decoded.delete(file);
    for (const { file } of gone) this.player?.forget(file);
    this.store.setState({ decoded });
    const named = (what: string, list: readonly { file: string }[]) =>
      list.length === 0 ? [] : [`${what}: ${listed(list.map(({ file }) => file))}.`];
    const host = hostById(this.hostId);
    const scenes =
      before.scene === null || now.scene === null ? [] : host.changes(before.scene, now.scene);
    const all = [
      ...named('Built again', other),
      ...named('New', added),
      ...named('Gone', gone),
      ...scenes,
    ];
    return all.length > 0 ? all : ['Nothing is other than before.'];
  }

  /** Decodes one after the other what was taken, as far as memory goes. */
  private async decodeAll({ sounds }: LoadedPack, turn: number): Promise<void> {
    let held = 0;
    for (const { file, frames, channels } of sounds) {
      held += frames * channels * BYTES_PER_SAMPLE;
      if (held > MOST_HELD_BYTES || turn !== this.turn) return;
      await this.want(file);
    }
  }

  /** Has a sound decoded, if it is not yet. Answers whether it can be played. */
  want(file: string): Promise<boolean> {
    const known = this.decoding.get(file);
    if (known) return known;
    if (this.store.getState().decoded.has(file)) return Promise.resolve(true);
    const decoding = this.decode(file).finally(() => this.decoding.delete(file));
    this.decoding.set(file, decoding);
    return decoding;
  }

  private async decode(file: string): Promise<boolean> {
    const turn = this.turn;
    try {
      const sound = await this.reader.decode(file);
      const player = this.playerNow();
      if (turn !== this.turn || !player) return false;
      player.put(file, sound);
      this.letGo(file);
      this.store.setState(({ decoded }) => ({ decoded: new Set([...decoded, file]) }));
      return true;
    } catch (error) {
      if (turn === this.turn) this.note(`${file} cannot be played: ${errorFacts(error).message}`);
      return false;
    }
  }

  /** Forgets sounds that nobody plays until the others and one more fit into memory. */
  private letGo(kept: string): void {
    const { loaded, decoded } = this.store.getState();
    const bytes = new Map(
      (loaded?.sounds ?? []).map((one) => [one.file, one.frames * one.channels * BYTES_PER_SAMPLE]),
    );
    const playing = new Set(this.player?.sounding().map(({ file }) => file));
    const left = new Set(decoded);
    let held = [...left, kept].reduce((sum, file) => sum + (bytes.get(file) ?? 0), 0);
    for (const file of decoded) {
      if (held <= MOST_HELD_BYTES) break;
      if (file === kept || playing.has(file)) continue;
      held -= bytes.get(file) ?? 0;
      left.delete(file);
      this.player?.forget(file);
    }
    this.store.setState({ decoded: left });
  }

  /** Begins a sound as soon as it is decoded. Answers its number; null where it cannot be heard. */
  async start(file: string, how: Partial<Start> = {}): Promise<number | null> {
    void this.wake();
    if (!this.player?.has(file) && !(await this.want(file))) return null;
    const id = this.player?.start(file, how) ?? null;
    this.tellSounding();
    return id;
  }

  stopFile(file: string, fadeSeconds = 0): void {
    this.player?.stopFile(file, fadeSeconds);
    this.tellSounding();
  }

  stop(voice: number, fadeSeconds = 0): void {
    this.player?.stop(voice, fadeSeconds);
    this.tellSounding();
  }

  /** Everything is silent, because somebody wants it so from outside. */
  silence(): void {
    this.stopAll();
    for (const hear of this.silenced) hear();
  }

  /** Calls `hear` whenever that happens, until the answer is called. */
  whenSilenced(hear: () => void): () => void {
    this.silenced.add(hear);
    return () => void this.silenced.delete(hear);
  }
  private readonly silenced = new Set<() => void>();

  stopAll(fadeSeconds = 0): void {
    this.player?.stopAll(fadeSeconds);
    this.tellSounding();
  }

  tellSounding(): void {
    this.store.setState({ sounding: new Set(this.player?.sounding().map(({ file }) => file)) });
  }

  /** Has sound come out, which browsers allow behind a gesture only. */
  async wake(): Promise<void> {
    const player = this.playerNow();
    const isAwake = (await player?.wake()) ?? false;
    if (this.store.getState().isAwake !== isAwake) this.store.setState({ isAwake });
  }

  /** Largest absolute sample of the last few milliseconds. */
  peak(): number {
    return this.player?.peak() ?? 0;
  }

  /** Whether anything of what plays comes out. */
  setMuted(isMuted: boolean): void {
    this.isMuted = isMuted;
    this.player?.setMuted(isMuted);
  }
  private isMuted = false;

  setVolume(volume: number): void {
    this.volume = volume;
    this.player?.setVolume(volume);
  }
  private volume = 1;

  setPhone(isPhoneOn: boolean): void {
    this.player?.setPhone(isPhoneOn);
    this.store.setState({ isPhoneOn });
  }

  /** Writes a line into the log of what happens. */
  note(text: string): void {
    const { loaded } = this.store.getState();
    if (!loaded) return;
    const atMs = performance.now() - this.begun;
    const log = [...loaded.log, { atMs, text }].slice(-MOST_LINES);
    this.store.setState({ loaded: { ...loaded, log } });
  }
  private begun = 0;

  async close(): Promise<void> {
    this.turn++;
    this.reader.close();
    await this.player?.close();
    this.player = null;
  }
}

const MOST_LINES = 2_000;
const MOST_NAMED = 4;

function listed(names: readonly string[]): string {
  const more = names.length - MOST_NAMED;
  const first = names.slice(0, MOST_NAMED).join(', ');
  return more > 0 ? `${first} and ${plural(more, 'other')}` : first;
}

/** The rate that most sounds have, in Hz. */
function commonestRate(sounds: readonly { rateHz: number }[]): number {
  const counts = new Map<number, number>();
  for (const { rateHz } of sounds) counts.set(rateHz, (counts.get(rateHz) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 44_100;
}
