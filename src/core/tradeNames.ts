/** How formats, layouts and rates are called, by everyone who shows them. */

const containers: Record<string, string> = {
  wav: 'WAV',
  aiff: 'AIFF',
  flac: 'FLAC',
  mp3: 'MP3',
  ogg: 'Ogg',
  mp4: 'M4A',
  adts: 'ADTS',
  webm: 'WebM',
  matroska: 'Matroska',
  raw: 'raw',
  c: 'C array',
};
const codecs: Record<string, string> = {
  pcm: 'PCM',
  float: 'float PCM',
  'ima-adpcm': 'IMA ADPCM',
  alaw: 'A-law',
  ulaw: 'µ-law',
  flac: 'FLAC',
  mp3: 'MP3',
  mp2: 'MPEG layer II',
  vorbis: 'Vorbis',
  opus: 'Opus',
  aac: 'AAC',
  'he-aac': 'HE-AAC',
  alac: 'ALAC',
};

/** Container and codec: "Ogg with Vorbis", "MP3". */
export function formatName(container: string, codec: string): string {
  const outer = containerName(container);
  const inner = codecName(codec);
  return outer === inner ? outer : `${outer} with ${inner}`;
}

export function containerName(container: string): string {
  return containers[container] ?? container;
}

export function codecName(codec: string): string {
  return codecs[codec] ?? codec;
}

export function layoutName(channels: number): string {
  return { 1: 'mono', 2: 'stereo', 6: '5.1', 8: '7.1' }[channels] ?? `${channels} channels`;
}

// Made once and only when asked for: making one takes longer than a thousand numbers.
let formatter: Intl.NumberFormat | undefined;
function grouped(value: number): string {
  return (formatter ??= new Intl.NumberFormat('en', { maximumFractionDigits: 3 })).format(value);
}

/** A count with its thousands told apart: "220,500". */
export function count(value: number): string {
  return grouped(value);
}

export function kilohertz(rateHz: number): string {
  return `${grouped(rateHz / 1000)} kHz`;
}

/** More rates than these are any that somebody will have. */
const MOST_RATES = 4;

/** Rates to choose from: "44.1 or 48 kHz", "any rate from 8 to 96 kHz". */
export function ratesText(rates: readonly number[]): string {
  const kilo = [...rates].sort((a, b) => a - b).map((hz) => grouped(hz / 1000));
  if (kilo.length > MOST_RATES) return `any rate from ${kilo[0]} to ${kilo.at(-1)} kHz`;
  return `${either(kilo)} kHz`;
}

/** "a", "a or b", "a, b or c". */
export function either(choices: readonly string[]): string {
  const [last, ...others] = [...choices].reverse();
  return others.length === 0 ? (last ?? '') : `${others.reverse().join(', ')} or ${last}`;
}

/** A number with a real minus sign and no more decimals than it needs. */
export function plainNumber(value: number, decimals = 1): string {
  return String(Number(value.toFixed(decimals))).replace('-', '−');
}

export function signedDb(value: number): string {
  return `${value > 0 ? '+' : ''}${plainNumber(value)} dB`;
}
