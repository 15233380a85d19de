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
const LEAD_SECONDS = 0.05;

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
  private begun = 0;
  private seconds = 0;
  private heard: string | null = null;
  private volume = 1;

  /** Begins with these, from `atSeconds` on. What played before stops. */
  async play(
    tracks: readonly Track[],
    rateHz: number,
    heard: string,
    atSeconds = 0,
  ): Promise<void> {
    this.stop();
    const context = await this.contextAt(rateHz);
    const frames = tracks[0]?.channels[0]?.length ?? 0;
    if (frames === 0) return;
    this.seconds = frames / rateHz;
    const begins = context.currentTime + LEAD_SECONDS;
    this.begun = begins - atSeconds;
    this.heard = heard;
    for (const track of tracks) this.start(context, track, begins);
  }

  /** Puts one more beside those that play, or in the place of one, in step. Nothing happens where nothing plays. */
  put(track: Track): void {
    const { context } = this;
    if (!context || this.sounding.size === 0) return;
    this.end(track.key);
    this.start(context, track, context.currentTime + LEAD_SECONDS);
  }

  /** Begins a track at a time of the context, where the others are then. */
  private start(context: AudioContext, track: Track, at: number): void {
    const node = context.createBufferSource();
    node.buffer = bufferOf(context, track, context.sampleRate);
    node.loop = true;
    const gain = context.createGain();
    gain.gain.value = track.key === this.heard ? 1 : 0;
    node.connect(gain).connect(this.sum!);
    // A whole frame, so that all of them fall on the same ones.
    const frame = Math.round((at - this.begun) * context.sampleRate) % node.buffer.length;
    node.start(
      this.begun + Math.round((at - this.begun) * context.sampleRate) / context.sampleRate,
      frame / context.sampleRate,
    );
    this.sounding.set(track.key, { node, gain });
  }

  /** Hears another one, from where one is. */
  switchTo(key: string): void {
    const { context } = this;
    if (!context || !this.sounding.has(key) || key === this.heard) return;
    this.heard = key;
    const now = context.currentTime;
    for (const [own, { gain }] of this.sounding) {
      // Sums to the same all the way: what is alike on both sides stays as loud.
      gain.gain.cancelScheduledValues(now);
      gain.gain.setValueAtTime(gain.gain.value, now);
      gain.gain.linearRampToValueAtTime(own === key ? 1 : 0, now + CROSSFADE_SECONDS);
    }
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
      this.sum = this.context.createAnalyser();
      this.output = this.context.createGain();
      this.output.gain.value = this.volume;
      this.sum.connect(this.output).connect(this.context.destination);
    }
    if (this.context.state === 'suspended') await this.context.resume();
    return this.context;
  }
}

/** A track with its gain, its ends made soft. */
function bufferOf(context: AudioContext, { channels, gainDb }: Track, rateHz: number): AudioBuffer {
  const frames = channels[0]?.length ?? 0;
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
