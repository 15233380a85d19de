/** A chain of nodes, from where sound goes in to where it comes out. */
export interface Chain {
  input: AudioNode;
  output: AudioNode;
}

/** What the small driver of a phone does to sound: nothing below, a hump above, little at the top. */
const filters: readonly { type: BiquadFilterType; hz: number; q: number; db?: number }[] = [
  // Butterworth of the fourth order: the cabinet is some millimetres deep.
  { type: 'highpass', hz: 480, q: 0.541 },
  { type: 'highpass', hz: 480, q: 1.307 },
  { type: 'peaking', hz: 950, q: 1.6, db: 4 },
  { type: 'peaking', hz: 3_600, q: 1.1, db: 5 },
  { type: 'lowpass', hz: 9_500, q: 0.707 },
];

/** How loud it is beside good loudspeakers; the limiter makes up for what it takes, which goes again. */
const GAIN = 0.28;

/** The loudspeaker of a phone: one channel, its band, and how it gives way when it is driven hard. */
export function phoneSpeaker(context: BaseAudioContext): Chain {
  const mono = context.createGain();
  mono.channelCount = 1;
  mono.channelCountMode = 'explicit';
  mono.channelInterpretation = 'speakers';
  let last: AudioNode = mono;
  for (const { type, hz, q, db = 0 } of filters) {
    const filter = context.createBiquadFilter();
    filter.type = type;
    filter.frequency.value = hz;
    // Web Audio takes the Q of high and low passes in dB.
    filter.Q.value = type === 'peaking' ? q : 20 * Math.log10(q);
    filter.gain.value = db;
    last = last.connect(filter);
  }
  const limiter = context.createDynamicsCompressor();
  limiter.threshold.value = -9;
  limiter.knee.value = 6;
  limiter.ratio.value = 12;
  limiter.attack.value = 0.002;
  limiter.release.value = 0.08;
  const gain = context.createGain();
  gain.gain.value = GAIN;
  last.connect(limiter).connect(gain);
  return { input: mono, output: gain };
}
