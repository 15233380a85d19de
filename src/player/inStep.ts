/** One of the sounds that are heard in step: as long as the others, at the same rate. */
export interface Track {
  key: string;
  channels: readonly Float32Array[];
  /** How much it is turned up or down, so that all are as loud. */
  gainDb: number;
}

interface Sounding {
  node: AudioBufferSourceNode;
  gain: GainNode;
}

/** From one to another in so long: too short to be heard as a fade, too long to click. */
const CROSSFADE_SECONDS = 0.005;
/** The ends of a span that is played around meet softly. */
const EDGE_SECONDS = 0.004;
/** What is asked of the sound's thread is asked so far ahead: what it hears of too late, it does late. */
const START_AHEAD_SECONDS = 0.05;
const SWITCH_AHEAD_SECONDS = 0.03;

/**
 * Plays several sounds of the same length around, all the time and to the frame in step, and lets one of them be heard:
 * going to another takes a crossfade of five milliseconds and leaves no gap.
 */
export class InStepPlayer {
  private context: AudioContext | null = null;
  /** What all go into, before the volume. */
  private sum: AnalyserNode | null = null;
  private output: GainNode | null = null;
  private readonly sounding = new Map<string, Sounding>();
  /** Time of the context at which the span began, a whole frame. */
  private begun = 0;
  private seconds = 0;
  private heard: string | null = null;
  /** Time of the context at which the last fade has ended. */
  private fadedAt = 0;
  private volume = 1;

  /** Begins with these. What played before stops. */
  async play(tracks: readonly Track[], rateHz: number, heard: string): Promise<void> {
    this.stop();
    const context = await this.contextAt(rateHz);
    const frames = tracks[0]?.channels[0]?.length ?? 0;
    if (frames === 0) return;
    this.seconds = frames / rateHz;
    this.heard = heard;
    const buffers = tracks.map((track) => bufferOf(context, track));
    inTime(context, (at) => {
      this.stop();
      this.begun = at;
      tracks.forEach(({ key }, i) => this.start(context, key, buffers[i]!, at));
    });
  }

  /** Puts one more beside those that play, or in the place of one, in step. Nothing happens where nothing plays. */
  put(track: Track): void {
    const { context } = this;
    if (!context || this.sounding.size === 0) return;
    const buffer = bufferOf(context, track);
    const last = this.sounding.get(track.key);
    inTime(context, (at) => {
      if (this.sounding.get(track.key) !== last) this.end(track.key);
      const next = this.start(context, track.key, buffer, at);
      if (!last) return;
      last.node.stop(at + CROSSFADE_SECONDS);
      if (track.key !== this.heard) return;
      last.gain.gain.cancelScheduledValues(0);
      fade(last.gain, 1, 0, at);
      fade(next.gain, 0, 1, at);
      this.fadedAt = at + CROSSFADE_SECONDS;
    });
  }

  /** Begins a track at a time of the context, where the others are then. */
  private start(context: AudioContext, key: string, buffer: AudioBuffer, at: number): Sounding {
    const node = context.createBufferSource();
    node.buffer = buffer;
    node.loop = true;
    const gain = context.createGain();
    gain.gain.value = key === this.heard ? 1 : 0;
    node.connect(gain).connect(this.sum!);
    // Both are whole frames, so that all of them fall on the same ones.
    const frame = Math.round((at - this.begun) * buffer.sampleRate) % buffer.length;
    node.start(at, frame / buffer.sampleRate);
    const own = { node, gain };
    this.sounding.set(key, own);
    return own;
  }

  /** Hears another one, from where one is. */
  switchTo(key: string): void {
    const { context } = this;
    const next = this.sounding.get(key);
    if (!context || !next || key === this.heard) return;
    const last = this.heard === null ? undefined : this.sounding.get(this.heard);
    this.heard = key;
    // One after another: where a fade begins, the one before has ended, so that its value is known.
    const at = Math.max(context.currentTime + SWITCH_AHEAD_SECONDS, this.fadedAt);
    this.fadedAt = at + CROSSFADE_SECONDS;
    // Both sum to the same all the way: what is alike on both sides stays as loud.
    if (last) fade(last.gain, 1, 0, at);
    fade(next.gain, 0, 1, at);
  }

  /** Where in the span one is, in seconds; null while nothing plays. */
  position(): number | null {
    if (!this.context || this.sounding.size === 0) return null;
    return Math.max(0, this.context.currentTime - this.begun) % this.seconds;
  }

  setVolume(volume: number): void {
    this.volume = volume;
    if (this.output) this.output.gain.value = volume;
  }

  stop(): void {
    for (const key of [...this.sounding.keys()]) this.end(key);
  }

  private end(key: string): void {
    const own = this.sounding.get(key);
    if (!own) return;
    own.node.stop();
    own.node.disconnect();
    own.gain.disconnect();
    this.sounding.delete(key);
  }

  async close(): Promise<void> {
    this.stop();
    await this.context?.close();
    this.context = null;
  }

  private async contextAt(rateHz: number): Promise<AudioContext> {
    if (this.context?.sampleRate !== rateHz) {
      await this.context?.close();
      this.context = new AudioContext({ sampleRate: rateHz, latencyHint: 'interactive' });
      this.fadedAt = 0;
      this.sum = this.context.createAnalyser();
      this.output = this.context.createGain();
      this.output.gain.value = this.volume;
      this.sum.connect(this.output).connect(this.context.destination);
    }
    if (this.context.state === 'suspended') await this.context.resume();
    return this.context;
  }
}

/**
 * Has something begin at a whole frame a little ahead, and again further ahead where the sound's thread was there first:
 * what begins late would be out of step.
 */
function inTime(context: AudioContext, begin: (at: number) => void): void {
  for (let ahead = START_AHEAD_SECONDS; ; ahead *= 2) {
    const at = Math.ceil((context.currentTime + ahead) * context.sampleRate) / context.sampleRate;
    begin(at);
    if (context.currentTime < at - START_AHEAD_SECONDS / 2) return;
  }
}

function fade({ gain }: GainNode, from: number, to: number, at: number): void {
  gain.setValueAtTime(from, at);
  gain.linearRampToValueAtTime(to, at + CROSSFADE_SECONDS);
}

/** A track with its gain, its ends made soft. */
function bufferOf(context: AudioContext, { channels, gainDb }: Track): AudioBuffer {
  const frames = channels[0]?.length ?? 0;
  const rateHz = context.sampleRate;
  const buffer = context.createBuffer(Math.max(1, channels.length), frames, rateHz);
  const factor = 10 ** (gainDb / 20);
  const edge = Math.min(frames >> 1, Math.round(EDGE_SECONDS * rateHz));
  channels.forEach((channel, c) => {
    const own = buffer.getChannelData(c);
    for (let i = 0; i < frames; i++) {
      const near = Math.min(i, frames - 1 - i);
      own[i] = channel[i]! * factor * (near < edge ? near / edge : 1);
    }
  });
  return buffer;
}
