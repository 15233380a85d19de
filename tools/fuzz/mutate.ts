/** Seeded damage to real files: the same seed always does the same. */

/** Numbers between 0 and 1 (mulberry32). */
export function randomOf(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), state | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}

type Damage = (bytes: Uint8Array, random: () => number) => Uint8Array;

const place = (bytes: Uint8Array, random: () => number) => Math.floor(random() * bytes.length);
/** Headers are where damage hurts most. */
const headPlace = (bytes: Uint8Array, random: () => number) =>
  Math.floor(random() ** 3 * Math.min(bytes.length, 4_096));

const damages: Record<string, Damage> = {
  flipBits(bytes, random) {
    const out = bytes.slice();
    for (let n = 1 + random() * 30; n > 0; n--)
      out[place(out, random)]! ^= 1 << Math.floor(random() * 8);
    return out;
  },
  flipHead(bytes, random) {
    const out = bytes.slice();
    for (let n = 1 + random() * 4; n > 0; n--)
      out[headPlace(out, random)]! ^= 1 << Math.floor(random() * 8);
    return out;
  },
  cut: (bytes, random) => bytes.slice(0, place(bytes, random)),
  cutMiddle(bytes, random) {
    const from = place(bytes, random);
    const to = Math.min(bytes.length, from + Math.floor(random() * 5_000));
    return Buffer.concat([bytes.subarray(0, from), bytes.subarray(to)]);
  },
  /** Length fields are 32-bit numbers somewhere in the head; give one an extreme value. */
  lie(bytes, random) {
    const out = bytes.slice();
    const value = [0, 1, 0x7fffffff, 0xffffffff, 0x80000000, Math.floor(random() * 2 ** 32)][
      Math.floor(random() * 6)
    ]!;
    const at = Math.min(out.length - 4, headPlace(out, random));
    if (at >= 0) new DataView(out.buffer, out.byteOffset).setUint32(at, value, random() < 0.5);
    return out;
  },
  swap(bytes, random) {
    const out = bytes.slice();
    const length = Math.floor(random() * Math.min(2_000, out.length / 3));
    const [a, b] = [place(out, random), place(out, random)];
    const piece = out.slice(a, a + length);
    out.copyWithin(a, b, b + length);
    out.set(piece.subarray(0, Math.max(0, out.length - b)), b);
    return out;
  },
  repeat(bytes, random) {
    const at = place(bytes, random);
    return Buffer.concat([bytes.subarray(0, at), bytes.subarray(Math.floor(at / 2))]);
  },
};

/** Damages a file in one to three ways. */
export function mutate(bytes: Uint8Array, seed: number): { name: string; bytes: Uint8Array } {
  const random = randomOf(seed);
  const kinds = Object.keys(damages);
  const names: string[] = [];
  let out = bytes;
  for (let n = 1 + Math.floor(random() * 3); n > 0 && out.length > 8; n--) {
    const kind = kinds[Math.floor(random() * kinds.length)]!;
    names.push(kind);
    out = damages[kind]!(out, random);
  }
  return { name: names.join('+'), bytes: out };
}
