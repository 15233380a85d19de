/** How formats, layouts and rates are called, by everyone who shows them. */

const containers: Record<string, string> = { wav: 'WAV', mp3: 'MP3', ogg: 'Ogg', mp4: 'M4A' };
const codecs: Record<string, string> = {
  pcm: 'PCM',
  float: 'float PCM',
  mp3: 'MP3',
  vorbis: 'Vorbis',
  aac: 'AAC',
};

/** Container and codec: "Ogg with Vorbis", "MP3". */
export function formatName(container: string, codec: string): string {
  const outer = containers[container] ?? container;
  const inner = codecs[codec] ?? codec;
  return outer === inner ? outer : `${outer} with ${inner}`;
}

export function layoutName(channels: number): string {
  return { 1: 'mono', 2: 'stereo' }[channels] ?? `${channels} channels`;
}

export function kilohertz(rateHz: number): string {
  return `${(rateHz / 1000).toLocaleString('en', { maximumFractionDigits: 3 })} kHz`;
}
