import type { Loop } from '@/core/marks';
import { phoneSpeaker, type Chain } from './phone';
import { recordFrom, type Recording } from './recorder';
import type { DecodedSound } from './messages';

/** How a sound is begun. */
export interface Start {
  /** As a factor. */
  gain: number;
  /** In so many seconds it comes up; at once where it is 0. */
  fadeSeconds: number;
  /** What of it repeats; null for nothing. */
  loop: Loop | 'all' | null;
  /** Factor of speed and pitch. */
  pitch: number;
}

/** One sounding of a sound. */
interface Voice extends Start {
  id: number;
  file: string;
  node: AudioBufferSourceNode;
  level: GainNode;
  /** Time of the context at which it began, or would have begun where it sounds now. */
  begun: number;
}

/** Too short to be heard as a fade, too long to click. */
const EDGE_SECONDS = 0.004;
/** A file that is replaced while it sounds goes over into the new one in so long. */
const OVER_SECONDS = 0.03;

/**
 * What a host sounds like: any number of sounds at a time, each begun, faded, looped and replaced by itself, muted
 * together, and heard through the loudspeaker of a phone or not.
 */
export class HostPlayer {
  private readonly context: AudioContext;
  private readonly buffers = new Map<string, AudioBuffer>();
  private readonly voices = new Map<number, Voice>();
  /** All voices, before anything mutes them. */
  private readonly sum: GainNode;
  /** What the host gives out: nothing while it is muted. */
  private readonly given: GainNode;
  private readonly lamp: AnalyserNode;
  private readonly output: GainNode;
  private phone: Chain | null = null;
  private isPhoneOn = false;
  private last = 0;

  /**
   * @param rateHz Of the sounds, most of which are then played frame by frame.
   * @param onEnded Called when a sound has come to its end by itself.
   */
  constructor(
    readonly rateHz: number,
    private readonly onEnded: (file: string) => void,
  ) {
    const context = new AudioContext({ sampleRate: rateHz, latencyHint: 'interactive' });
    this.context = context;
    this.sum = context.createGain();
    this.given = context.createGain();
    this.lamp = context.createAnalyser();
    this.output = context.createGain();
    this.sum.connect(this.given).connect(this.lamp);
    this.lamp.connect(this.output).connect(context.destination);
  }

  /** Whether sound comes out: false where there is no device for it, or the browser still waits for a gesture. */
  async wake(): Promise<boolean> {
    const { context } = this;
    if (context.state === 'suspended') {
      const late = new Promise((resolve) => setTimeout(resolve, WAKING_MS));
      await Promise.race([context.resume().catch(() => undefined), late]);
    }
    return context.state === 'running';
  }

  /** Gives the samples of a sound. One that sounds already goes over into them, from where it is. */
  put(file: string, { rateHz, channels }: DecodedSound): void {
    const frames = Math.max(1, channels[0]?.length ?? 0);
    const buffer = this.context.createBuffer(Math.max(1, channels.length), frames, rateHz);
    channels.forEach((samples, c) => buffer.copyToChannel(samples, c));
    this.buffers.set(file, buffer);
    for (const voice of [...this.voices.values()]) {
      if (voice.file === file) this.replace(voice, buffer);
    }
  }

  has(file: string): boolean {
    return this.buffers.has(file);
  }

  /** Lets the samples of a file go; what sounds of it ends. */
  forget(file: string): void {
    this.stopFile(file, 0);
    this.buffers.delete(file);
  }

  /** Begins a sound that is there. Answers its number; null where it is not there yet. */
  start(file: string, how: Partial<Start> = {}): number | null {
    const buffer = this.buffers.get(file);
    if (!buffer) return null;
    const start: Start = { gain: 1, fadeSeconds: 0, loop: null, pitch: 1, ...how };
    return this.begin(++this.last, file, buffer, start, 0, start.fadeSeconds).id;
  }

  private begin(
    id: number,
    file: string,
    buffer: AudioBuffer,
    start: Start,
    fromSeconds: number,
    fadeSeconds: number,
  ): Voice {
    const { context } = this;
    const node = context.createBufferSource();
    node.buffer = buffer;
    node.playbackRate.value = start.pitch;
    setLoop(node, start.loop, buffer);
    const level = context.createGain();
    const now = context.currentTime;
    level.gain.setValueAtTime(fadeSeconds > 0 ? 0 : start.gain, now);
    if (fadeSeconds > 0) level.gain.linearRampToValueAtTime(start.gain, now + fadeSeconds);
    node.connect(level).connect(this.sum);
    node.start(now, fromSeconds);
    const begun = now - fromSeconds / start.pitch;
    const voice: Voice = { ...start, id, file, node, level, begun };
    this.voices.set(id, voice);
    node.onended = () => {
      level.disconnect();
      // Another one may have taken its place.
      if (this.voices.get(id) !== voice) return;
      this.voices.delete(id);
      this.onEnded(file);
    };
    return voice;
  }

  private replace(voice: Voice, buffer: AudioBuffer): void {
    const at = this.placeOf(voice);
    this.end(voice, OVER_SECONDS);
    if (at < buffer.duration) this.begin(voice.id, voice.file, buffer, voice, at, OVER_SECONDS);
  }

  /** Where in its file a voice is, in seconds. */
  private placeOf({ begun, pitch, node }: Voice): number {
    const at = (this.context.currentTime - begun) * pitch;
    const { loop, loopStart, loopEnd } = node;
    const end = loopEnd || node.buffer!.duration;
    return loop && at > end ? loopStart + ((at - loopStart) % (end - loopStart)) : at;
  }

  /** Ends what sounds of a file, in so many seconds. */
  stopFile(file: string, fadeSeconds: number): void {
    for (const voice of [...this.voices.values()]) {
      if (voice.file === file) this.end(voice, fadeSeconds);
    }
  }

  stop(id: number, fadeSeconds = 0): void {
    const voice = this.voices.get(id);
    if (voice) this.end(voice, fadeSeconds);
  }

  stopAll(fadeSeconds = 0): void {
    for (const voice of [...this.voices.values()]) this.end(voice, fadeSeconds);
  }

  private end({ id, node, level }: Voice, fadeSeconds: number): void {
    this.voices.delete(id);
    const now = this.context.currentTime;
    const seconds = Math.max(EDGE_SECONDS, fadeSeconds);
    const { gain } = level;
    const held = gain.value;
    gain.cancelScheduledValues(now);
    gain.setValueAtTime(held, now);
    gain.linearRampToValueAtTime(0, now + seconds);
    node.stop(now + seconds);
  }

  /** Changes how loud the soundings of a file are. */
  setGain(file: string, gain: number): void {
    for (const voice of this.voices.values()) {
      if (voice.file !== file) continue;
      voice.gain = gain;
      voice.level.gain.setTargetAtTime(gain, this.context.currentTime, EDGE_SECONDS);
    }
  }

  /** Which files sound, and where in them one is, in seconds. */
  sounding(): { file: string; at: number }[] {
    return [...this.voices.values()].map((voice) => ({
      file: voice.file,
      at: this.placeOf(voice),
    }));
  }

  /** Whether anything comes out; what plays goes on unheard. */
  setMuted(isMuted: boolean): void {
    this.given.gain.setTargetAtTime(isMuted ? 0 : 1, this.context.currentTime, EDGE_SECONDS);
  }

  setPhone(isOn: boolean): void {
    if (isOn === this.isPhoneOn) return;
    this.isPhoneOn = isOn;
    this.phone ??= phoneSpeaker(this.context);
    const { given, lamp, phone } = this;
    if (isOn) {
      given.disconnect(lamp);
      given.connect(phone.input);
      phone.output.connect(lamp);
    } else {
      given.disconnect(phone.input);
      phone.output.disconnect(lamp);
      given.connect(lamp);
    }
  }

  setVolume(volume: number): void {
    this.output.gain.value = volume;
  }

  /** Largest absolute sample of the last few milliseconds, before the listening level. */
  peak(): number {
    const samples = new Float32Array(this.lamp.fftSize);
    this.lamp.getFloatTimeDomainData(samples);
    return samples.reduce((most, x) => Math.max(most, Math.abs(x)), 0);
  }

  /** Records what all sounds are together, and what the host gives out of it. Answers what ends it. */
  async record(): Promise<() => { own: Recording; given: Recording }> {
    const end = await recordFrom(this.context, [this.sum, this.given]);
    return () => {
      const [own, given] = end();
      return { own: own!, given: given! };
    };
  }

  get time(): number {
    return this.context.currentTime;
  }

  async close(): Promise<void> {
    this.stopAll();
    await this.context.close().catch(() => undefined);
  }
}

const WAKING_MS = 1_000;

function setLoop(
  node: AudioBufferSourceNode,
  loop: Start['loop'],
  { sampleRate, length }: AudioBuffer,
): void {
  node.loop = loop !== null;
  if (loop === null || loop === 'all') return;
  node.loopStart = loop.startFrame / sampleRate;
  node.loopEnd = Math.min(length, loop.endFrame) / sampleRate;
}
