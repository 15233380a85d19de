/** Something that can be listened to, read in spans. */
export interface Listenable {
  /** Tells versions apart: "source", "shaped", or a finished file. */
  key: string;
  rateHz: number;
  channels: number;
  frames: number;
  /** Where its first frame lies in the source, in seconds: versions are compared at the same place. */
  offsetSeconds: number;
  /** Address that answers interleaved float32 samples for `start` and `frames`. */
  url: string;
}

/** Fetches a span and makes an audio buffer of it. */
export async function fetchSpan(
  context: BaseAudioContext,
  listenable: Listenable,
  startFrame: number,
  frames: number,
  signal: AbortSignal,
): Promise<AudioBuffer> {
  const url = new URL(listenable.url, location.href);
  url.searchParams.set('start', String(startFrame));
  url.searchParams.set('frames', String(frames));
  const response = await fetch(url, { signal });
  if (!response.ok) {
    const { error } = (await response.json()) as { error?: { message?: string } };
    throw new Error(error?.message ?? 'The sound cannot be played.');
  }
  const samples = new Float32Array(await response.arrayBuffer());
  const { channels, rateHz } = listenable;
  const buffer = context.createBuffer(channels, Math.max(1, samples.length / channels), rateHz);
  for (let c = 0; c < channels; c++) {
    const channel = buffer.getChannelData(c);
    for (let i = 0, at = c; i < channel.length; i++, at += channels) channel[i] = samples[at] ?? 0;
  }
  return buffer;
}
