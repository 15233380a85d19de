/**
 * What C libraries need to decode stereo at 44.1 kHz, as a ratio to MP3 (libmpg123): libFLAC, libfaad, libvorbis and libopus
 * of Debian 12, plain loops for samples and IMA ADPCM. Measured once by `npm run native` (a minute of tones and noise; MP3
 * at 128 kbit/s took 1.19 ms a second). What decodes here is other code, whose order among codecs is another one.
 */
const RATIOS: Readonly<Record<string, number>> = {
  pcm: 0.1,
  float: 0.1,
  'ima-adpcm': 0.4,
  flac: 0.8,
  mp3: 1,
  aac: 1.5,
  vorbis: 1.8,
  opus: 3.5,
};

const MEASURED_SAMPLES = 2 * 44_100;

/** The cost of decoding with native code, MP3 in stereo at 44.1 kHz being 1; null for what was not measured. */
export function nativeCostOf(sound: {
  codec: string;
  sampleRateHz: number;
  channels: number;
}): number | null {
  const ratio = RATIOS[sound.codec];
  if (ratio === undefined) return null;
  return (ratio * sound.sampleRateHz * sound.channels) / MEASURED_SAMPLES;
}
