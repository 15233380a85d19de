import type { Plugin } from 'chart.js';
import { gradeWords } from '@/core/compare/grade';
import { themeColour } from '../codecs';
import type { SizeLimit } from '../limits';

/** The mark of a candidate. */
export interface Dot {
  x: number;
  y: number;
  key: string;
  radius: number;
  /** How far the sounds lie apart. */
  spread: { x: readonly [number, number]; y: readonly [number, number] };
}

const WORD_PIXELS = 13;

/** Where each word of the scale begins. */
export const words: Plugin<'scatter'> = {
  id: 'words',
  beforeDatasetsDraw({ ctx, chartArea, scales }) {
    const { y } = scales;
    if (!y) return;
    ctx.save();
    ctx.font = '11px sans-serif';
    ctx.textAlign = 'right';
    ctx.textBaseline = 'bottom';
    let below = -Infinity;
    for (const { from, words: text } of [...gradeWords].reverse()) {
      const at = y.getPixelForValue(-from);
      ctx.fillStyle = themeColour('--color-secondary', ctx.canvas);
      ctx.strokeStyle = themeColour('--color-base-300', ctx.canvas);
      ctx.setLineDash([2, 3]);
      ctx.beginPath();
      ctx.moveTo(chartArea.left, at);
      ctx.lineTo(chartArea.right, at);
      ctx.stroke();
      // Each word stands below the line where its stretch ends, where there is room.
      if (at < below + WORD_PIXELS) continue;
      ctx.fillText(text, chartArea.right - 4, at + WORD_PIXELS + 1);
      below = at;
    }
    ctx.restore();
  },
};

/** Sizes that a destination does not take. */
export function limitLines(limits: () => readonly SizeLimit[]): Plugin<'scatter'> {
  return {
    id: 'limits',
    beforeDatasetsDraw({ ctx, chartArea, scales: { x } }) {
      if (!x) return;
      ctx.save();
      ctx.font = '11px sans-serif';
      ctx.strokeStyle = ctx.fillStyle = themeColour('--color-error', ctx.canvas);
      for (const { kbps, text } of limits()) {
        const at = Math.max(chartArea.left, Math.min(chartArea.right, x.getPixelForValue(kbps)));
        ctx.beginPath();
        ctx.moveTo(at, chartArea.top);
        ctx.lineTo(at, chartArea.bottom);
        ctx.stroke();
        const isRight = at > (chartArea.left + chartArea.right) / 2;
        ctx.textAlign = isRight ? 'right' : 'left';
        ctx.fillText(text, at + (isRight ? -4 : 4), chartArea.bottom - 5);
      }
      ctx.restore();
    },
  };
}

/** How far the sounds lie apart for what is pointed at. */
export function whiskers(pointed: () => string | null): Plugin<'scatter'> {
  return {
    id: 'whiskers',
    afterDatasetsDraw({ ctx, data, scales: { x, y } }) {
      const key = pointed();
      const dot = data.datasets
        .slice(1)
        .flatMap((set) => set.data as Dot[])
        .find((one) => one.key === key);
      if (!dot || !x || !y) return;
      ctx.save();
      ctx.strokeStyle = themeColour('--color-base-content', ctx.canvas);
      ctx.beginPath();
      for (const [from, to] of [
        [at(dot.spread.x[0], dot.y), at(dot.spread.x[1], dot.y)],
        [at(dot.x, dot.spread.y[0]), at(dot.x, dot.spread.y[1])],
      ] as const) {
        ctx.moveTo(...from);
        ctx.lineTo(...to);
      }
      ctx.stroke();
      ctx.restore();
      function at(valueX: number, valueY: number): [number, number] {
        return [x!.getPixelForValue(valueX), y!.getPixelForValue(valueY)];
      }
    },
  };
}
