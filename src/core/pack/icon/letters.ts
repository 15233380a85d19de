/** Capital letters and figures as strokes on a grid of 4 by 6: "xy xy …", strokes parted by a bar. */
const strokes: Record<string, string> = {
  A: '06 20 46|14 34',
  B: '00 06 36 45 44 33 03|33 42 41 30 00',
  C: '41 30 10 01 05 16 36 45',
  D: '00 06 26 44 42 20 00',
  E: '40 00 06 46|03 33',
  F: '40 00 06|03 33',
  G: '41 30 10 01 05 16 36 45 43 23',
  H: '00 06|40 46|03 43',
  I: '20 26|10 30|16 36',
  J: '40 45 36 16 05',
  K: '00 06|40 03 46',
  L: '00 06 46',
  M: '06 00 23 40 46',
  N: '06 00 46 40',
  O: '10 30 41 45 36 16 05 01 10',
  P: '06 00 30 41 42 33 03',
  Q: '10 30 41 45 36 16 05 01 10|24 46',
  R: '06 00 30 41 42 33 03|23 46',
  S: '41 30 10 01 02 13 33 44 45 36 16 05',
  T: '00 40|20 26',
  U: '00 05 16 36 45 40',
  V: '00 26 40',
  W: '00 16 23 36 40',
  X: '00 46|40 06',
  Y: '00 23 40|23 26',
  Z: '00 40 06 46',
  0: '10 30 41 45 36 16 05 01 10|15 31',
  1: '11 20 26|16 36',
  2: '01 10 30 41 42 06 46',
  3: '00 40 22 33 44 45 36 16 05',
  4: '30 04 44|30 36',
  5: '40 00 02 32 43 45 36 06',
  6: '40 20 03 05 16 36 45 44 33 03',
  7: '00 40 16',
  8: '10 30 41 42 33 13 02 01 10|13 04 05 16 36 45 44 33',
  9: '06 26 43 41 30 10 01 02 13 43',
};

export const LETTER_WIDTH = 4;
export const LETTER_HEIGHT = 6;

type Segment = [x1: number, y1: number, x2: number, y2: number];

/** The strokes of a letter; none for what is neither of the alphabet nor a figure. */
export function segmentsOf(letter: string): Segment[] {
  return (strokes[letter] ?? '').split('|').flatMap((line) => {
    const points = line.split(' ').map((pair) => [Number(pair[0]), Number(pair[1])] as const);
    return points.slice(1).map(([x, y], i): Segment => [...points[i]!, x, y]);
  });
}

/** Up to two letters that stand for a name: those of its first words, or its first one. */
export function initials(name: string): string[] {
  const plain = name.normalize('NFKD').toUpperCase();
  const words = plain.split(/[^A-Z0-9\p{M}]+/u).map((word) => word.replace(/\p{M}/gu, ''));
  return words
    .filter(Boolean)
    .slice(0, 2)
    .map((word) => word[0]!);
}
