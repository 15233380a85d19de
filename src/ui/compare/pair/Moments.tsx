'use client';

import type { TrialDetails } from '@/wire';
import { formatTime } from '../../shared/format';
import type { Stretch } from './hearing';
import { Places, pointing } from './Place';
import { SideLine } from './SideLine';

/** The picture's range, in dB of noise to mask. */
const RANGE = { from: -30, to: 20 };
const HEIGHT = 70;
const WIDTH = 1_000;

/** Where in time noise rises above what the sound hides; the worst moments can be gone to. */
export function Moments({
  details,
  stretch,
  onStretch,
}: {
  details: readonly TrialDetails[];
  stretch: Stretch;
  onStretch: (stretch: Stretch) => void;
}) {
  const [first] = details;
  if (!first) return <div className="h-24" />;
  const { seconds } = first.sound;
  const x = (at: number) => (at / seconds) * WIDTH;
  const y = (db: number) =>
    HEIGHT -
    ((Math.max(RANGE.from, Math.min(RANGE.to, db)) - RANGE.from) / (RANGE.to - RANGE.from)) *
      HEIGHT;
  const around = (at: number): Stretch => {
    const half = Math.min(seconds, stretch.to - stretch.from) / 2;
    const middle = Math.max(half, Math.min(seconds - half, at));
    return { from: middle - half, to: middle + half };
  };
  return (
    <section aria-label="Where in time" className="min-w-0">
      <div
        className="border-base-300 bg-base-100 relative overflow-hidden border"
        {...pointing({ from: 0, to: seconds })}
      >
        <svg
          viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
          preserveAspectRatio="none"
          className="block h-20 w-full cursor-pointer"
          role="img"
          aria-label="Noise to mask over time"
          onClick={(event) => {
            const box = event.currentTarget.getBoundingClientRect();
            onStretch(around(((event.clientX - box.left) / box.width) * seconds));
          }}
        >
          <rect
            x={x(stretch.from)}
            width={Math.max(2, x(stretch.to) - x(stretch.from))}
            y={0}
            height={HEIGHT}
            className="fill-primary/15"
          />
          <line
            x1={0}
            x2={WIDTH}
            y1={y(0)}
            y2={y(0)}
            className="stroke-secondary"
            strokeDasharray="4 4"
            vectorEffect="non-scaling-stroke"
          />
          {details.map(({ id, figures }, i) => (
            <SideLine
              key={id}
              side={i}
              points={figures.fidelity.curve.nmrDb
                .map((db, n) => `${x(n * figures.fidelity.curve.stepSeconds)},${y(db ?? -99)}`)
                .join(' ')}
            />
          ))}
        </svg>
        <span className="text-soft pointer-events-none absolute top-0 right-1 text-[10px]">
          noise above its mask
        </span>
        <span className="text-soft pointer-events-none absolute right-1 bottom-0 text-[10px]">
          hidden
        </span>
        <Places stretch={{ from: 0, to: seconds }} />
      </div>
      <p className="mt-1 flex flex-wrap items-center gap-1 text-xs">
        <span className="text-soft">Worst moments:</span>
        {first.figures.fidelity.worst.map(({ seconds: at, nmrDb, hz }) => (
          <button
            key={at}
            className="btn btn-paper btn-xs font-normal"
            title={`Noise lies ${Math.abs(nmrDb).toFixed(1)} dB ${nmrDb > 0 ? 'above' : 'below'} what hides it, most of it around ${hz} Hz`}
            onClick={() => onStretch(around(at))}
          >
            {formatTime(at)} · {nmrDb.toFixed(1).replace('-', '−')} dB
          </button>
        ))}
        {first.figures.fidelity.worst.length === 0 && <span>nothing differs anywhere</span>}
      </p>
    </section>
  );
}
