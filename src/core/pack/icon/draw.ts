import { encode } from 'fast-png';
import { initials, LETTER_HEIGHT, LETTER_WIDTH, segmentsOf } from './letters';

type Colour = readonly [red: number, green: number, blue: number];

/** What the stone may be of: deep enough for light letters. */
const stones: readonly Colour[] = [
  [128, 29, 66],
  [24, 92, 88],
  [36, 66, 128],
  [116, 62, 22],
  [84, 42, 122],
  [28, 98, 54],
  [138, 44, 30],
  [52, 60, 72],
];
const PAPER: Colour = [250, 247, 240];

/** Half of a stroke's width, on the grid of the letters. */
const THICK = 0.48;

/** Points that each pixel is looked at in, in either direction. */
const FINE = 3;

/**
 * Draws an icon out of a name: a cut stone, seen from above, with the name's first letters. The same name gives the
 * same bytes.
 * @param size In pixels, both ways.
 * @returns A PNG.
 */
export function drawnIcon(name: string, size: number): Uint8Array {
  const key = `${size} ${name}`;
  const found = known.get(key) ?? drawn(name, size);
  if (size > MOST_FINE) return found;
  known.delete(key);
  known.set(key, found);
  if (known.size > MOST_KNOWN) known.delete([...known.keys()][0]!);
  return found;
}

/** Drawn last, oldest first: packs are looked at again and again before they are made. */
const known = new Map<string, Uint8Array>();
const MOST_KNOWN = 16;

/** Larger ones are drawn so large and spread: nobody sees more in them, and each pixel takes its time. */
const MOST_FINE = 512;

function drawn(name: string, size: number): Uint8Array {
  const data =
    size <= MOST_FINE ? pixels(name, size) : spread(pixels(name, MOST_FINE), MOST_FINE, size);
  return encode({ width: size, height: size, data, channels: 4, depth: 8 });
}

/** Red, green, blue and how much of it is covered, row by row. */
function pixels(name: string, size: number): Uint8Array {
  const colourAt = stone(name);
  const data = new Uint8Array(size * size * 4);
  for (let y = 0; y < size; y++) {
    for (let x = 0; x < size; x++) {
      let [red, green, blue, covered] = [0, 0, 0, 0];
      for (let point = 0; point < FINE * FINE; point++) {
        const u = (x + ((point % FINE) + 0.5) / FINE) / size;
        const v = (y + (Math.floor(point / FINE) + 0.5) / FINE) / size;
        const colour = colourAt(u * 2 - 1, v * 2 - 1);
        if (!colour) continue;
        covered++;
        red += colour[0];
        green += colour[1];
        blue += colour[2];
      }
      if (covered === 0) continue;
      const at = (y * size + x) * 4;
      data[at] = Math.round(red / covered);
      data[at + 1] = Math.round(green / covered);
      data[at + 2] = Math.round(blue / covered);
      data[at + 3] = Math.round((255 * covered) / (FINE * FINE));
    }
  }
  return data;
}

/** A larger picture of the same: each pixel between the four that lie around its place. */
function spread(small: Uint8Array, from: number, to: number): Uint8Array {
  const data = new Uint8Array(to * to * 4);
  const firsts = new Int32Array(to);
  const shares = new Float64Array(to);
  for (let i = 0; i < to; i++) {
    const at = Math.max(0, Math.min(from - 1.001, ((i + 0.5) * from) / to - 0.5));
    firsts[i] = Math.floor(at);
    shares[i] = at - firsts[i]!;
  }
  for (let y = 0; y < to; y++) {
    for (let x = 0; x < to; x++) {
      let [red, green, blue, cover] = [0, 0, 0, 0];
      for (let corner = 0; corner < 4; corner++) {
        const [down, right] = [corner >> 1, corner & 1];
        const place = ((firsts[y]! + down) * from + firsts[x]! + right) * 4;
        const share = (down ? shares[y]! : 1 - shares[y]!) * (right ? shares[x]! : 1 - shares[x]!);
        // What is not covered has no colour to add.
        const weight = small[place + 3]! * share;
        red += small[place]! * weight;
        green += small[place + 1]! * weight;
        blue += small[place + 2]! * weight;
        cover += weight;
      }
      if (cover === 0) continue;
      const at = (y * to + x) * 4;
      data[at] = Math.round(red / cover);
      data[at + 1] = Math.round(green / cover);
      data[at + 2] = Math.round(blue / cover);
      data[at + 3] = Math.round(cover);
    }
  }
  return data;
}

/** The colour at a place from −1 to 1; null outside of the stone. */
function stone(name: string): (x: number, y: number) => Colour | null {
  const random = numbers(name.normalize('NFC'));
  const colour = stones[Math.floor(random() * stones.length)]!;
  const sides = 7 + Math.floor(random() * 5);
  const turn = random() * Math.PI;
  // Each side has two facets, which the light meets otherwise.
  const facets = Array.from({ length: sides * 2 }, () => shaded(colour, 0.72 + random() * 0.5));
  const table = shaded(colour, 1.06);
  const isLetter = letters(initials(name));
  const sector = (2 * Math.PI) / sides;
  return (x, y) => {
    if (isLetter(x, y)) return PAPER;
    const angle = (Math.atan2(y, x) + turn + 4 * Math.PI) % (2 * Math.PI);
    const inSector = (angle % sector) - sector / 2;
    // How far out it lies, measured square to the side of the polygon.
    const out = Math.sqrt(x * x + y * y) * Math.cos(inSector);
    if (out > 0.94) return null;
    if (out < 0.6) return table;
    const side = Math.floor(angle / sector) % sides;
    return facets[side * 2 + (inSector > 0 ? 1 : 0)]!;
  };
}

function shaded(colour: Colour, shade: number): Colour {
  return colour.map((part) => Math.min(255, part * shade)) as unknown as Colour;
}

/** Whether a place lies on a stroke of the letters, which stand in the middle side by side. */
function letters(list: readonly string[]): (x: number, y: number) => boolean {
  const unit = list.length > 1 ? 0.105 : 0.14;
  const gap = 2;
  const width = list.length * LETTER_WIDTH + (list.length - 1) * gap;
  const all = list.flatMap((letter, i) =>
    segmentsOf(letter).map(([x1, y1, x2, y2]) => {
      const left = i * (LETTER_WIDTH + gap) - width / 2;
      const top = -LETTER_HEIGHT / 2;
      return [x1 + left, y1 + top, x2 + left, y2 + top] as const;
    }),
  );
  const [mostX, mostY] = [width / 2 + THICK, LETTER_HEIGHT / 2 + THICK];
  return (x, y) => {
    const [u, v] = [x / unit, y / unit];
    if (Math.abs(u) > mostX || Math.abs(v) > mostY) return false;
    for (const segment of all) if (distance(u, v, segment) < THICK) return true;
    return false;
  };
}

function distance(
  x: number,
  y: number,
  [x1, y1, x2, y2]: readonly [number, number, number, number],
): number {
  const [dx, dy] = [x2 - x1, y2 - y1];
  const length = dx * dx + dy * dy;
  const along = length === 0 ? 0 : ((x - x1) * dx + (y - y1) * dy) / length;
  const t = Math.max(0, Math.min(1, along));
  const [u, v] = [x - x1 - t * dx, y - y1 - t * dy];
  return Math.sqrt(u * u + v * v);
}

/** Numbers from 0 to 1 that hang on a text alone (FNV-1a, then xorshift). */
function numbers(text: string): () => number {
  let state = 0x811c9dc5;
  for (const letter of new TextEncoder().encode(text)) {
    state = Math.imul(state ^ letter, 0x01000193) >>> 0;
  }
  state ||= 1;
  return () => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    state >>>= 0;
    return state / 2 ** 32;
  };
}
