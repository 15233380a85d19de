'use client';

import {
  Chart,
  LineController,
  LineElement,
  LogarithmicScale,
  PointElement,
  ScatterController,
  type ChartDataset,
} from 'chart.js';
import { useEffect, useRef, useState } from 'react';
import { columnNumber, trialColumn } from '@/core/compare/columns';
import type { TrialColumn } from '@/core/compare/measured';
import { rowValue, type CandidateRow } from '@/core/compare/rows';
import { codecName } from '@/core/tradeNames';
import type { Trial } from '@/wire';
import { markOf, themeColour } from '../codecs';
import type { SizeLimit } from '../limits';
import { limitLines, whiskers, words, type Dot } from './chartParts';
import { point, useLook } from '../look';

Chart.register(ScatterController, LineController, LineElement, LogarithmicScale, PointElement);

/** Errors below that are drawn there: a logarithm has no 0. */
const LEAST_ERROR = 0.004;
const RADIUS = { least: 4, most: 14 };

/** Size against audible error, what decoding costs with native decoders as the size of the mark. */
export function Scatter({
  rows,
  limits,
  onOpen,
}: {
  rows: readonly CandidateRow<Trial>[];
  limits: readonly SizeLimit[];
  onOpen?: (row: CandidateRow<Trial>) => void;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const chart = useRef<Chart<'scatter', Dot[]> | null>(null);
  const pointed = useLook((state) => state.pointed);
  const theme = useTheme();
  const drawn = rows.filter(({ measured }) => measured.length > 0);
  const latest = useRef({ rows: drawn, pointed, limits, onOpen });
  latest.current = { rows: drawn, pointed, limits, onOpen };

  useEffect(() => {
    if (!canvas.current) return;
    const made = new Chart<'scatter', Dot[]>(canvas.current, {
      type: 'scatter',
      data: { datasets: [] },
      plugins: [
        words,
        limitLines(() => latest.current.limits),
        whiskers(() => latest.current.pointed),
      ],
      options: {
        animation: false,
        maintainAspectRatio: false,
        layout: { padding: { right: 12, top: 8 } },
        onHover: (_, found) => {
          const hit = found[0];
          const dot = hit && made.data.datasets[hit.datasetIndex]?.data[hit.index];
          point(dot?.key ?? null);
        },
        onClick: () => {
          const { rows: all, pointed: key, onOpen: open } = latest.current;
          const row = all.find((one) => one.key === key);
          if (row) open?.(row);
        },
        interaction: { mode: 'nearest', intersect: true },
      },
    });
    chart.current = made;
    return () => made.destroy();
  }, []);

  useEffect(() => {
    const made = chart.current;
    if (!made) return;
    made.data.datasets = datasetsOf(latest.current.rows, latest.current.pointed, made.canvas);
    made.options.scales = scalesOf(made.canvas);
    made.update('none');
  }, [rows, pointed, theme, limits]);

  return (
    <figure className="flex h-full min-h-64 flex-col">
      <Legend rows={drawn} pointed={drawn.find(({ key }) => key === pointed) ?? null} />
      <div
        className="relative min-h-0 flex-1"
        onMouseLeave={() => point(null)}
        role="img"
        aria-label="Size against audible error; the table has the same figures"
      >
        <canvas ref={canvas} data-points={drawn.length} />
      </div>
    </figure>
  );
}

/** What the marks mean, or what is pointed at. */
function Legend({
  rows,
  pointed,
}: {
  rows: readonly CandidateRow<Trial>[];
  pointed: CandidateRow<Trial> | null;
}) {
  const codecs = new Map(rows.map(({ candidate }) => [candidate.codec, markOf(candidate)]));
  const figure = (column: TrialColumn, row: CandidateRow<Trial>) =>
    columnNumber(column, rowValue(column, row)?.median ?? null);
  return (
    <figcaption className="text-soft flex min-h-5 flex-wrap gap-x-4 px-2 text-xs">
      {[...codecs].map(([codec, { sign, colour }]) => (
        <span key={codec}>
          <span style={{ color: `var(${colour})` }}>{sign}</span> {codecName(codec)}
        </span>
      ))}
      <span className="ml-auto">
        {pointed ? (
          <span className="text-base-content">
            <strong>{pointed.name}</strong>: {figure(size, pointed)} kbit/s, grade{' '}
            {figure(grade, pointed)}, to decode {figure(cost, pointed)} {cost.unit}
          </span>
        ) : (
          'larger mark: native decoders need longer · hollow: another is smaller and better'
        )}
      </span>
    </figcaption>
  );
}

const size = trialColumn('kbps');
const grade = trialColumn('grade');
const cost = trialColumn('nativeCost');

const errorOf = (value: number) => Math.max(LEAST_ERROR, -value);

function dotsOf(rows: readonly CandidateRow<Trial>[]): (Dot & { row: CandidateRow<Trial> })[] {
  const costs = rows.map((row) => rowValue(cost, row)?.median ?? 0);
  const most = Math.max(...costs, 1e-9);
  return rows.map((row, i) => {
    const x = rowValue(size, row)!;
    const y = rowValue(grade, row)!;
    return {
      row,
      key: row.key,
      x: x.median,
      y: errorOf(y.median),
      radius: RADIUS.least + (RADIUS.most - RADIUS.least) * Math.sqrt(costs[i]! / most),
      spread: { x: [x.low, x.high], y: [errorOf(y.high), errorOf(y.low)] },
    };
  });
}

function datasetsOf(
  rows: readonly CandidateRow<Trial>[],
  pointed: string | null,
  canvas: Element,
): ChartDataset<'scatter', Dot[]>[] {
  const dots = dotsOf(rows);
  const front = dots.filter(({ row }) => row.isUnbeaten).sort((a, b) => a.x - b.x);
  const codecs = [...new Set(rows.map(({ candidate }) => markOf(candidate).codec))];
  const sets = codecs.map((codec): ChartDataset<'scatter', Dot[]> => {
    const own = dots.filter(({ row }) => markOf(row.candidate).codec === codec);
    const { shape, colour } = markOf(own[0]!.row.candidate);
    const full = themeColour(colour, canvas);
    const paper = themeColour('--color-base-100', canvas);
    return {
      data: own,
      pointStyle: shape,
      pointRadius: own.map(({ radius, key }) => radius + (key === pointed ? 3 : 0)),
      pointHoverRadius: own.map(({ radius }) => radius + 3),
      // What another one beats is drawn hollow.
      backgroundColor: own.map(({ row }) => (row.isUnbeaten ? full : paper)),
      borderColor: full,
      borderWidth: own.map(({ key }) => (key === pointed ? 3 : 1.5)),
    };
  });
  return [
    {
      type: 'line' as never,
      data: front,
      pointRadius: 0,
      pointHitRadius: 0,
      borderColor: themeColour('--color-secondary', canvas),
      borderWidth: 1.5,
      borderDash: [5, 4],
      order: 1,
    },
    ...sets,
  ];
}

function scalesOf(canvas: Element) {
  const ink = themeColour('--color-secondary', canvas);
  const grid = themeColour('--color-base-300', canvas);
  const axis = (title: string) => ({
    type: 'logarithmic' as const,
    title: { display: true, text: title, color: ink },
    ticks: {
      color: ink,
      maxTicksLimit: 8,
      callback: (value: string | number) => String(Number(Number(value).toPrecision(2))),
    },
    grid: { color: grid },
    border: { color: ink },
  });
  return {
    x: axis('Size in kbit/s'),
    y: { ...axis('Audible error (grades below the source)'), min: LEAST_ERROR * 0.8, max: 5 },
  };
}

/** Changes with the theme, whose colours a canvas does not follow by itself. */
function useTheme(): string {
  const [theme, setTheme] = useState('');
  useEffect(() => {
    const root = document.documentElement;
    const read = () =>
      setTheme(`${root.dataset['theme']} ${themeColour('--color-base-100', root)}`);
    read();
    const watching = new MutationObserver(read);
    watching.observe(root, { attributes: true, attributeFilter: ['data-theme'] });
    return () => watching.disconnect();
  }, []);
  return theme;
}
