/** Something wrong with a file, as folders of others' sounds are full of it. */
export interface Flaw {
  /** Code of the worry that it must raise. */
  worry: string;
  spoil?(channels: Float32Array[], rateHz: number): Float32Array[];
  /** Depth of the file, where its samples are to lie on the grid of 16 bits and get no dither. */
  bits?: number;
  /** The name says another format than the file. */
  lies?: true;
}

const silence = (seconds: number, rateHz: number) => new Float32Array(Math.round(seconds * rateHz));

function joined(...parts: Float32Array[]): Float32Array {
  const whole = new Float32Array(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}

export const flaws: readonly Flaw[] = [
  {
    worry: 'silent-head',
    spoil: (channels, rateHz) => channels.map((c) => joined(silence(0.4, rateHz), c)),
  },
  {
    worry: 'silent-tail',
    spoil: (channels, rateHz) => channels.map((c) => joined(c, silence(1.2, rateHz))),
  },
  { worry: 'dc-offset', spoil: (channels) => channels.map((c) => c.map((x) => x * 0.8 + 0.03)) },
  {
    worry: 'clipped',
    spoil: (channels) => channels.map((c) => c.map((x) => Math.max(-1, Math.min(1, x * 6)))),
  },
  { worry: 'very-quiet', spoil: (channels) => channels.map((c) => c.map((x) => x * 0.003)) },
  { worry: 'identical-channels', bits: 16, spoil: ([left]) => [left!, left!] },
  { worry: 'opposite-polarity', spoil: ([left]) => [left!, left!.map((x) => -0.9 * x)] },
  { worry: 'unused-bits', bits: 24 },
  { worry: 'name-disagrees', lies: true },
];
