import { fetchSpan, firstFrames, type Listenable } from './source';

/** What is played: frames from `start` up to, not including, `end`. */
export interface Range {
  start: number;
  end: number;
}

const SPAN_SECONDS = 4;
/** How much is scheduled ahead. */
const AHEAD_SECONDS = 8;
const LEAD_SECONDS = 0.03;

/**
 * Plays spans of a sound back to back. The audio context runs at the sound's own rate, so buffers
 * join on exact frames and nothing is resampled between them; a loop is as long as its range.
 */
export class Player {
  private context: AudioContext | null = null;
  private making: Promise<unknown> = Promise.resolve();
  private gain: GainNode | null = null;
  private analyser: AnalyserNode | null = null;
  /** Scheduled and not yet ended. */
  private readonly nodes = new Set<AudioBufferSourceNode>();
  private abort: AbortController | null = null;
  private playing: {
    listenable: Listenable;
    range: Range;
    from: number;
    startedAt: number;
  } | null = null;
  private loop = false;
  private volume = 1;

  /** Called when playback reaches its end or fails. */
  constructor(private readonly onStop: (problem: string | null) => void) {}

  /** Starts at `fromFrame` inside `range`; what was playing stops. */
  async play(listenable: Listenable, range: Range, fromFrame: number): Promise<void> {
    this.halt();
    const abort = new AbortController();
    this.abort = abort;
    const from = fromFrame >= range.start && fromFrame < range.end ? fromFrame : range.start;
    try {
      const context = await this.contextAt(listenable.rateHz);
      await this.schedule(context, listenable, range, from, abort.signal);
    } catch (error) {
      if (abort.signal.aborted) return;
      this.halt();
      this.onStop(error instanceof Error ? error.message : String(error));
    }
  }

  stop(): void {
    this.halt();
    this.onStop(null);
  }

  setLoop(loop: boolean): void {
    this.loop = loop;
  }

  setVolume(volume: number): void {
    this.volume = volume;
    if (this.gain) this.gain.gain.value = volume;
  }

  /** The frame that is heard now; null when nothing is. */
  position(): number | null {
    if (!this.playing || !this.context) return null;
    const { listenable, range, from, startedAt } = this.playing;
    const passed = Math.max(0, this.context.currentTime - startedAt) * listenable.rateHz;
    const length = range.end - range.start;
    const inRange = from - range.start + passed;
    return range.start + Math.floor(this.loop ? inRange % length : Math.min(inRange, length));
  }

  /** Largest absolute sample of the last few milliseconds, before the volume. */
  peak(): number {
    if (!this.analyser) return 0;
    const samples = new Float32Array(this.analyser.fftSize);
    this.analyser.getFloatTimeDomainData(samples);
    return samples.reduce((most, x) => Math.max(most, Math.abs(x)), 0);
  }

  private async schedule(
    context: AudioContext,
    listenable: Listenable,
    range: Range,
    from: number,
    signal: AbortSignal,
  ): Promise<void> {
    const length = range.end - range.start;
    if (this.loop && length <= SPAN_SECONDS * listenable.rateHz) {
      const buffer = await fetchSpan(context, listenable, range.start, length, signal);
      if (signal.aborted) return;
      const startedAt = firstFrame(context) / context.sampleRate;
      this.playing = { listenable, range, from, startedAt };
      this.start(context, buffer, startedAt, (from - range.start) / listenable.rateHz).loop = true;
      return;
    }
    let at = from;
    let whenFrame = 0;
    let most = firstFrames(listenable);
    for (;;) {
      const frames = Math.min(most, range.end - at);
      const buffer = await fetchSpan(context, listenable, at, frames, signal);
      if (signal.aborted) return;
      if (!this.playing) {
        whenFrame = firstFrame(context);
        const startedAt = timeOf(whenFrame, context.sampleRate);
        this.playing = { listenable, range, from, startedAt };
      }
      // What comes too late does not sound over what is behind it: everything moves back.
      const late = lateness(context, whenFrame);
      whenFrame += late;
      this.playing.startedAt += late / context.sampleRate;
      const node = this.start(context, buffer, timeOf(whenFrame, context.sampleRate));
      whenFrame += frames;
      at += frames;
      most = Math.round(SPAN_SECONDS * listenable.rateHz);
      if (at >= range.end) {
        if (!this.loop) {
          node.onended = () => {
            if (!signal.aborted) this.stop();
          };
          return;
        }
        at = range.start;
      }
      await this.waitUntil(context, whenFrame / context.sampleRate - AHEAD_SECONDS, signal);
    }
  }

  private start(
    context: AudioContext,
    buffer: AudioBuffer,
    when: number,
    offsetSeconds = 0,
  ): AudioBufferSourceNode {
    const node = context.createBufferSource();
    node.buffer = buffer;
    node.connect(this.analyser!);
    node.onended = () => this.nodes.delete(node);
    node.start(when, offsetSeconds);
    this.nodes.add(node);
    return node;
  }

  private async waitUntil(context: AudioContext, time: number, signal: AbortSignal): Promise<void> {
    while (!signal.aborted && context.currentTime < time) {
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
  }

  /** Makes ready to play at a rate, which takes a moment; what is playing goes on. */
  prepare(rateHz: number): void {
    // What cannot be played says so when it is to be played.
    if (!this.playing) this.madeFor(rateHz).catch(() => undefined);
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
    for (const node of this.nodes) {
      node.onended = null;
      try {
        node.stop();
      } catch {
        // It had not been started yet.
      }
      node.disconnect();
    }
    this.nodes.clear();
    this.playing = null;
  }
}

/**
 * A frame a moment ahead whose time leads back to exactly itself: a browser that finds a start between two
 * frames mixes these, and samples are not what they were.
 */
function firstFrame({
  currentTime,
  sampleRate,
}: Pick<AudioContext, 'currentTime' | 'sampleRate'>): number {
  let frame = Math.ceil((currentTime + LEAD_SECONDS) * sampleRate);
  while ((frame / sampleRate) * sampleRate !== frame) frame++;
  return frame;
}

/** By how many frames a start comes too late; 0 when it does not. */
export function lateness(
  context: Pick<AudioContext, 'currentTime' | 'sampleRate'>,
  whenFrame: number,
): number {
  const isLate = context.currentTime * context.sampleRate > whenFrame;
  return isLate ? firstFrame(context) - whenFrame : 0;
}

/** The time of a frame, never a breath behind it: then the next frame would be the first to sound. */
function timeOf(frame: number, rateHz: number): number {
  const time = frame / rateHz;
  return time * rateHz > frame ? time * (1 - Number.EPSILON) : time;
}
