'use client';

import { useState } from 'react';
import { earBands } from '@/core/compare/ear/bands';
import type { TrialDetails } from '@/wire';
import { SideLine } from './SideLine';

const RANGE = { from: -20, to: 80 };
const WIDTH = 1_000;
const HEIGHT = 170;
const marks = [200, 500, 1_000, 2_000, 5_000, 10_000];

/** Noise against what the sound hides, by band of the ear, over all of it. */
export function Bands({ details }: { details: readonly TrialDetails[] }) {
  const [pointed, setPointed] = useState<number | null>(null);
  const [first] = details;
  if (!first) return null;
  const x = (band: number) => (band / (earBands.length - 1)) * WIDTH;
  const y = (db: number) =>
    HEIGHT -
    ((Math.max(RANGE.from, Math.min(RANGE.to, db)) - RANGE.from) / (RANGE.to - RANGE.from)) *
      HEIGHT;
  const points = (levels: readonly (number | null)[]) =>
    levels.map((db, band) => `${x(band)},${y(db ?? -99)}`).join(' ');
  const { maskDb } = first.figures.fidelity.bands;
  return (
    <section aria-label="Noise against mask" className="min-w-0">
      <h2 className="text-soft mb-1 text-xs font-semibold">
        Noise against what the sound hides, in bands of the ear
      </h2>
      <div
        className="border-base-300 bg-base-100 relative border"
        onPointerMove={(event) => {
          const box = event.currentTarget.getBoundingClientRect();
          const share = (event.clientX - box.left) / box.width;
          setPointed(
            Math.max(0, Math.min(earBands.length - 1, Math.round(share * (earBands.length - 1)))),
          );
        }}
        onPointerLeave={() => setPointed(null)}
      >
        <svg
          viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
          preserveAspectRatio="none"
          className="block h-40 w-full"
          role="img"
          aria-label="Noise and mask by band"
        >
          <polygon
            className="fill-base-300/70"
            points={`0,${HEIGHT} ${points(maskDb)} ${WIDTH},${HEIGHT}`}
          />
          {details.map(({ id, figures }, i) => (
            <SideLine key={id} side={i} points={points(figures.fidelity.bands.noiseDb)} />
          ))}
        </svg>
        {marks.map((hz) => {
          const band = earBands.findIndex(({ toHz }) => hz < toHz);
          return (
            <span
              key={hz}
              aria-hidden
              className="text-soft absolute bottom-0 -translate-x-1/2 text-[10px]"
              style={{ left: `${(100 * band) / (earBands.length - 1)}%` }}
            >
              {hz < 1_000 ? `${hz} Hz` : `${hz / 1_000} kHz`}
            </span>
          );
        })}
        {pointed !== null && (
          <span
            aria-hidden
            className="border-base-content/60 pointer-events-none absolute inset-y-0 border-l border-dashed"
            style={{ left: `${(100 * pointed) / (earBands.length - 1)}%` }}
          />
        )}
        <span className="text-soft absolute top-1 right-2 text-xs">
          {pointed === null ? 'shaded: hidden by the sound' : readingAt(details, pointed)}
        </span>
      </div>
    </section>
  );
}

/** What the picture shows in one band, in numbers. */
function readingAt(details: readonly TrialDetails[], band: number): string {
  const level = (db: number | null | undefined) =>
    typeof db === 'number' ? `${db.toFixed(0).replace('-', '−')} dB` : 'none';
  const [right, left] = details.map(({ figures }) => level(figures.fidelity.bands.noiseDb[band]));
  const noise = left === undefined ? right : `left ${left}, right ${right}`;
  const mask = level(details[0]?.figures.fidelity.bands.maskDb[band]);
  return `${Math.round(earBands[band]!.centreHz)} Hz: noise ${noise}, hidden up to ${mask}`;
}
