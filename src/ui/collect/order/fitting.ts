/** A line of the list has room for so many lines of chips. */
const LINES = 2;
/** A letter of a chip on average, what is around its letters, and what is between two chips, in pixels. */
const LETTER = 6.2;
const FRAME = 11;
const GAP = 4;
/** A chip that says how many more there are. */
const MORE = 30;

/**
 * How many chips, from the first one on, have room in a cell of so many pixels; if not all have, so few
 * that a chip for the others has room too.
 */
export function fitting(names: readonly string[], width: number): number {
  const widths = names.map((name) => name.length * LETTER + FRAME);
  if (linesOf(widths, width) <= LINES) return names.length;
  let most = names.length - 1;
  while (most > 0 && linesOf([...widths.slice(0, most), MORE], width) > LINES) most--;
  return most;
}

/** Lines that boxes fill which stand side by side as far as they fit. */
function linesOf(widths: readonly number[], width: number): number {
  let [lines, used] = [0, Infinity];
  for (const one of widths) {
    if (used + GAP + one > width) [lines, used] = [lines + 1, one];
    else used += GAP + one;
  }
  return lines;
}
