const lossyCodecs = new Set(['mp3', 'mp2', 'vorbis', 'opus', 'aac', 'he-aac']);

/** Whether encoding a sound once more would lose something of it: its samples were made smaller than they are. */
export function isEncoded({
  codec,
  bitDepth,
}: {
  codec: string;
  bitDepth: number | null;
}): boolean {
  return bitDepth === null || codec === 'ima-adpcm';
}

/** Whether a codec gives back only what it takes for heard. */
export function isLossy(codec: string): boolean {
  return lossyCodecs.has(codec);
}
