/** A picture is so many units high; full scale stays a little off its edges. */
export const PICTURE_UNITS = 64;
const SCALE = (PICTURE_UNITS / 2) * 0.94;
/** What is quieter than can be seen is a line all the same. */
const THINNEST = 2;

/** SVG paths of a small waveform that is one unit wide for every column. */
export interface Outline {
  columns: number;
  /** Between the extremes. */
  wave: string;
  /** What is heard as loudness: RMS, inside the extremes. */
  body: string;
}

/** The outline of `[min, max, rms]` a column, each −1 … 1. */
export function outlineOf(data: readonly number[]): Outline {
  const columns = Math.floor(data.length / 3);
  const spans = Array.from({ length: columns }, (_, i) => {
    const [min, max, rms] = [data[3 * i]!, data[3 * i + 1]!, data[3 * i + 2]!];
    return { min, max, high: Math.min(rms, max), low: Math.max(-rms, min) };
  });
  return {
    columns,
    wave: band(spans.map(({ min, max }) => [min, max])),
    body: band(spans.map(({ low, high }) => [Math.min(low, high), high])),
  };
}

/** Along the upper ends to the right, along the lower ends back. */
function band(spans: readonly [low: number, high: number][]): string {
  const edges = spans.map(([low, high]) => {
    const [top, bottom] = [y(high), y(low)];
    const missing = Math.max(0, THINNEST - (bottom - top)) / 2;
    return [Math.floor(top - missing), Math.ceil(bottom + missing)] as const;
  });
  const there = edges.map(([top], i) => `V${top}H${i + 1}`).join('');
  const back = edges.map(([, bottom], i) => `V${bottom}H${i}`).reverse();
  return edges.length === 0 ? '' : `M0 ${edges[0]![0]}${there}${back.join('')}Z`;
}

function y(value: number): number {
  return PICTURE_UNITS / 2 - Math.max(-1, Math.min(1, value)) * SCALE;
}
