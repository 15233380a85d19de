import {
  aroundFrames,
  placeOn,
  runFrom,
  steered,
  type Course,
  type Place,
  type Run,
} from './course';
import { exactLength, firstFrame, lateness, timeOf } from './clock';
import { firstFrames, readSpan, type Listenable } from './source';

const SPAN_SECONDS = 4;
/** How much is scheduled ahead. */
const AHEAD_SECONDS = 8;
/** So long it takes until a change is heard, while everything that is needed is there. */
const STEER_SECONDS = 0.05;

/** What was scheduled: runs of the course by the frames of the context at which they sound. */
interface Scheduled extends Run {
  at: number;
}

interface Sounding {
  node: AudioBufferSourceNode;
  at: number;
  frames: number;
}

/** What is being played. */
interface Playing {
  listenable: Listenable;
  course: Course;
  timeline: Scheduled[];
  /** What is played around, read once where it is short. */
  around: Map<number, Promise<readonly Float32Array[]>>;
}

/**
 * Plays stretches of a sound back to back. The audio context runs at the sound's own rate, so buffers join on
 * exact frames and nothing is resampled between them. What is played, and of what, may change meanwhile without
 * a break.
 */
export class Player {
  private context: AudioContext | null = null;
  private making: Promise<unknown> = Promise.resolve();
  private gain: GainNode | null = null;
  private analyser: AnalyserNode | null = null;
  /** Scheduled and not yet ended. */
  private readonly sounding = new Set<Sounding>();
  private abort: AbortController | null = null;
  private playing: Playing | null = null;
  private volume = 1;

  /** Called when playback reaches its end or fails. */
  constructor(private readonly onStop: (problem: string | null) => void) {}

  /** Starts at that frame of a course, or at its beginning; what was playing stops. */
  async play(listenable: Listenable, course: Course, frame?: number): Promise<void> {
    this.halt();
    await this.follow(async (signal) => {
      const context = await this.contextAt(listenable.rateHz);
      if (signal.aborted) return;
      const place = placeOn(course, frame);
      await this.schedule(context, { listenable, course, timeline: [], around: new Map() }, place, {
        at: null,
        signal,
      });
    });
  }

  /**
   * Goes on with another course, or other samples of the same rate, without a break: what is about to be heard
   * stays, what comes behind it changes. Answers whether there is something to go on with.
   */
  steer(listenable: Listenable, course: Course): boolean {
    const { playing, context } = this;
    const isSounding = playing !== null && playing.timeline.length > 0;
    if (!isSounding || context?.sampleRate !== listenable.rateHz) return false;
    this.abort?.abort();
    void this.follow(async (signal) => {
      const next: Playing = { listenable, course, timeline: [], around: new Map() };
      for (let ahead = STEER_SECONDS; ; ahead *= 2) {
        const at = firstFrame(context, { leadSeconds: ahead });
        const before = this.placeAt(playing, at);
        const place = before && steered(course, before);
        if (!place) return this.stop();
        // Everything is there before anything is taken away.
        const most = exactLength(at, beginning(next), context.sampleRate);
        const first = await this.chunk(context, next, place, most, signal);
        if (signal.aborted) return;
        if (lateness(context, at) > 0) continue;
        next.timeline = playing.timeline.filter((run) => run.at < at);
        this.cutAt(context, at);
        await this.schedule(context, next, place, { at, signal, first });
        return;
      }
    });
    return true;
  }

  stop(): void {
    this.halt();
    this.onStop(null);
  }

  setVolume(volume: number): void {
    this.volume = volume;
    if (this.gain) this.gain.gain.value = volume;
  }

  /** What is heard now, as a place on the course; null when nothing is. */
  place(): Place | null {
    if (!this.playing || !this.context || this.playing.timeline.length === 0) return null;
    return this.placeAt(
      this.playing,
      Math.floor(this.context.currentTime * this.context.sampleRate),
    );
  }

  /** The frame that is heard now; null when nothing is. */
  position(): number | null {
    return this.place()?.frame ?? null;
  }

  /** Largest absolute sample of the last few milliseconds, before the volume. */
  peak(): number {
    if (!this.analyser) return 0;
    const samples = new Float32Array(this.analyser.fftSize);
    this.analyser.getFloatTimeDomainData(samples);
    return samples.reduce((most, x) => Math.max(most, Math.abs(x)), 0);
  }

  /** Makes ready to play at a rate, which takes a moment; what is playing goes on. */
  prepare(rateHz: number): void {
    // What cannot be played says so when it is to be played.
    if (!this.playing) this.madeFor(rateHz).catch(() => undefined);
  }

  /** Does something until it is overtaken, and says what goes wrong. */
  private async follow(work: (signal: AbortSignal) => Promise<void>): Promise<void> {
    const abort = new AbortController();
    this.abort = abort;
    try {
      await work(abort.signal);
    } catch (error) {
      if (abort.signal.aborted) return;
      this.halt();
      this.onStop(error instanceof Error ? error.message : String(error));
    }
  }

  /** The place of a course that sounds at a frame of the context; before all others the first one. */
  private placeAt({ timeline }: Playing, at: number): Place | null {
    const run = timeline.findLast((one) => one.at <= at) ?? timeline[0];
    if (!run) return null;
    const passed = Math.max(0, Math.min(at - run.at, run.frames));
    return { ...run.place, frame: run.place.frame + passed };
  }

  /** Schedules from a place on: at a frame of the context that is given, or as soon as can be. */
  private async schedule(
    context: AudioContext,
    playing: Playing,
    from: Place | null,
    { at, signal, first }: { at: number | null; signal: AbortSignal; first?: Chunk },
  ): Promise<void> {
    const { listenable } = playing;
    const span = Math.round(SPAN_SECONDS * listenable.rateHz);
    let whenFrame = at;
    let place = from;
    let chunk = first;
    let most = beginning(playing);
    while (place) {
      chunk ??= await this.chunk(context, playing, place, most, signal);
      if (signal.aborted) return;
      const { length: frames } = chunk.buffer;
      whenFrame ??= firstFrame(context, { frames });
      // What comes too late does not sound over what is behind it: everything moves back.
      whenFrame += lateness(context, whenFrame, frames);
      this.playing = playing;
      const node = this.start(context, chunk.buffer, whenFrame);
      for (const run of chunk.runs) {
        playing.timeline.push({ ...run, at: whenFrame });
        whenFrame += run.frames;
      }
      place = chunk.next;
      chunk = undefined;
      most = exactLength(whenFrame, span, context.sampleRate);
      if (!place) {
        node.onended = () => {
          if (!signal.aborted) this.stop();
        };
        return;
      }
      await this.waitUntil(context, whenFrame / context.sampleRate - AHEAD_SECONDS, signal);
      this.forget(context, playing);
    }
  }

  /** The next frames of a course in one piece, short stretches over and over. */
  private async chunk(
    context: AudioContext,
    playing: Playing,
    from: Place,
    most: number,
    signal: AbortSignal,
  ): Promise<Chunk> {
    const runs: Run[] = [];
    let left = Math.max(1, most);
    let place: Place | null = from;
    while (place && left > 0) {
      const { run, next } = runFrom(playing.course, place, left);
      if (run.frames > 0) runs.push(run);
      left -= run.frames;
      place = next;
    }
    const { channels, rateHz } = playing.listenable;
    const frames = runs.reduce((sum, run) => sum + run.frames, 0);
    const buffer = context.createBuffer(channels, Math.max(1, frames), rateHz);
    let at = 0;
    for (const run of runs) {
      const samples = await this.read(playing, run, signal);
      if (signal.aborted) break;
      samples.forEach((channel, c) =>
        buffer.copyToChannel(channel as Float32Array<ArrayBuffer>, c, at),
      );
      at += run.frames;
    }
    return { buffer, runs, next: place };
  }

  /** A run's samples; what is short and played around is read once. */
  private async read(
    { listenable, course, around }: Playing,
    { place, frames }: Run,
    signal: AbortSignal,
  ) {
    const range = course.around[place.stretch - course.once.length];
    if (!range || !isShort({ listenable, course })) {
      return readSpan(listenable, place.frame, frames, signal);
    }
    const whole =
      around.get(place.stretch) ??
      readSpan(listenable, range.start, range.end - range.start, signal);
    around.set(place.stretch, whole);
    const from = place.frame - range.start;
    return (await whole).map((channel) => channel.subarray(from, from + frames));
  }

  private start(context: AudioContext, buffer: AudioBuffer, at: number): AudioBufferSourceNode {
    const node = context.createBufferSource();
    const sounding = { node, at, frames: buffer.length };
    node.buffer = buffer;
    node.connect(this.analyser!);
    node.onended = () => this.sounding.delete(sounding);
    node.start(timeOf(at, context.sampleRate));
    this.sounding.add(sounding);
    return node;
  }

  /** Takes away everything that is scheduled from a frame of the context on. */
  private cutAt(context: AudioContext, at: number): void {
    for (const sounding of this.sounding) {
      if (sounding.at >= at) this.silence(sounding);
      else if (sounding.at + sounding.frames > at) {
        sounding.node.onended = () => this.sounding.delete(sounding);
        sounding.node.stop(timeOf(at, context.sampleRate));
      }
    }
  }

  private silence(sounding: Sounding): void {
    const { node } = sounding;
    node.onended = null;
    try {
      node.stop();
    } catch {
      // It had not been started yet.
    }
    node.disconnect();
    this.sounding.delete(sounding);
  }

  /** What was heard long ago is not looked up any more. */
  private forget(context: AudioContext, playing: Playing): void {
    const now = context.currentTime * context.sampleRate;
    const heard = playing.timeline.findLastIndex((run) => run.at + run.frames < now);
    if (heard > 0) playing.timeline.splice(0, heard);
  }

  private async waitUntil(context: AudioContext, time: number, signal: AbortSignal): Promise<void> {
    while (!signal.aborted && context.currentTime < time) {
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
  }

  private async contextAt(rateHz: number): Promise<AudioContext> {
    const context = await this.madeFor(rateHz);
    if (context.state === 'suspended') await context.resume();
    return context;
  }

  /** One after the other: a context that is being closed cannot be closed again. */
  private madeFor(rateHz: number): Promise<AudioContext> {
    const made = this.making.catch(() => undefined).then(() => this.make(rateHz));
    this.making = made;
    return made;
  }

  private async make(rateHz: number): Promise<AudioContext> {
    if (this.context?.sampleRate !== rateHz) {
      await this.context?.close();
      this.context = new AudioContext({ sampleRate: rateHz, latencyHint: 'interactive' });
      this.analyser = this.context.createAnalyser();
      this.analyser.fftSize = 4096;
      this.gain = this.context.createGain();
      this.gain.gain.value = this.volume;
      this.analyser.connect(this.gain).connect(this.context.destination);
    }
    return this.context;
  }

  private halt(): void {
    this.abort?.abort();
    for (const sounding of this.sounding) this.silence(sounding);
    this.playing = null;
  }
}

/** Whether all that is played around is read at once and then is there. */
function isShort({ listenable, course }: Pick<Playing, 'listenable' | 'course'>): boolean {
  return aroundFrames(course) <= SPAN_SECONDS * listenable.rateHz;
}

/** How much is put together first: of what is there at once, so much that a busy page leaves no gap. */
function beginning(playing: Playing): number {
  const { listenable } = playing;
  return isShort(playing) ? Math.round(SPAN_SECONDS * listenable.rateHz) : firstFrames(listenable);
}

/** Frames of a course in one piece. */
interface Chunk {
  buffer: AudioBuffer;
  runs: Run[];
  next: Place | null;
}
