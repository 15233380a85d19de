import type { SpectrumFacts } from '@/core/measure/spectrum';
import { kilohertz } from '../../shared/format';

type Spectrum = SpectrumFacts['spectrum'];

const [WIDTH, HEIGHT] = [560, 90];
const RANGE_DB = 90;
const marksHz = [100, 1_000, 10_000];

/** The half seconds on both sides by pitch: where the lines part, the seam changes colour. */
export function SideSpectra({
  before,
  behind,
  rateHz,
}: {
  before: Spectrum;
  behind: Spectrum;
  rateHz: number;
}) {
  const both = [before, behind].flatMap((one) => one?.levelsDb ?? []);
  const lowest = (before ?? behind)?.hz[0] ?? 20;
  if (both.length === 0) return null;
  const top = Math.max(...both);
  const octaves = Math.log2(rateHz / 2 / lowest);
  const x = (hz: number) => (Math.log2(hz / lowest) / octaves) * WIDTH;
  const y = (db: number) => (Math.min(RANGE_DB, top - db) / RANGE_DB) * HEIGHT;
  const points = (of: Spectrum) =>
    of?.hz.map((hz, i) => `${x(hz).toFixed(1)},${y(of.levelsDb[i]!).toFixed(1)}`).join(' ');
  return (
    <figure className="mt-1">
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT + 12}`}
        preserveAspectRatio="none"
        className="h-24 w-full"
        role="img"
        aria-label="Spectrum of the half second in front of the seam, and of the one behind it"
      >
        {marksHz
          .filter((hz) => hz < rateHz / 2)
          .map((hz) => (
            <line key={hz} x1={x(hz)} x2={x(hz)} y1={0} y2={HEIGHT} className="stroke-base-300" />
          ))}
        <polyline
          points={points(before)}
          className="fill-none stroke-current"
          strokeWidth={1.3}
          vectorEffect="non-scaling-stroke"
        />
        <polyline
          points={points(behind)}
          className="stroke-primary fill-none"
          strokeWidth={1.6}
          strokeDasharray="5 3"
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      <figcaption className="text-soft flex flex-wrap gap-x-4 text-xs">
        <span>Spectra of the half seconds on both sides:</span>
        <span>
          <Sample isDashed={false} /> the end
        </span>
        <span>
          <Sample isDashed /> the start
        </span>
        <span className="ml-auto">
          20 Hz to {kilohertz(rateHz / 2)}, lines at 100 Hz, 1 and 10 kHz
        </span>
      </figcaption>
    </figure>
  );
}

function Sample({ isDashed }: { isDashed: boolean }) {
  return (
    <svg viewBox="0 0 22 6" className="inline h-1.5 w-5.5" aria-hidden>
      <line
        x1={0}
        x2={22}
        y1={3}
        y2={3}
        strokeWidth={1.6}
        className={isDashed ? 'stroke-primary' : 'stroke-current'}
        strokeDasharray={isDashed ? '5 3' : undefined}
      />
    </svg>
  );
}
