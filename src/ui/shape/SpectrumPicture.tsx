'use client';

import { useQuery } from '@tanstack/react-query';
import type { Facts, ListedFacts } from '@/core/measure/probe';
import type { Sound } from '@/wire';
import { call } from '../shared/api';
import { kilohertz, number } from '../shared/format';

const [WIDTH, HEIGHT] = [360, 130];
/** Levels that the picture spans. */
const [TOP_DB, BOTTOM_DB] = [0, -120];
const marksHz = [100, 1_000, 10_000];

/** The mean spectrum, frequencies by octaves, with the place where it ends. */
export function SpectrumPicture({ sound, facts }: { sound: Sound; facts: ListedFacts }) {
  const { bandwidthHz, sampleRateHz } = facts;
  const { data: spectrum } = useQuery({
    queryKey: ['spectrum', sound.sourceSha256],
    queryFn: () => call<Facts['spectrum']>(`sounds/${sound.id}/spectrum`),
    staleTime: Infinity,
  });
  if (!spectrum) return null;
  const lowest = spectrum.hz[0] ?? 20;
  const octaves = Math.log2(sampleRateHz / 2 / lowest);
  const x = (hz: number) => (Math.log2(hz / lowest) / octaves) * WIDTH;
  const y = (db: number) => {
    const held = Math.max(BOTTOM_DB, Math.min(TOP_DB, db));
    return ((TOP_DB - held) / (TOP_DB - BOTTOM_DB)) * HEIGHT;
  };
  const line = spectrum.hz.map(
    (hz, i) => `${x(hz).toFixed(1)},${y(spectrum.levelsDb[i]!).toFixed(1)}`,
  );
  const ends = bandwidthHz === null ? '' : ` It ends at ${kilohertz(bandwidthHz)}.`;
  return (
    <figure>
      <figcaption className="text-soft mb-1 text-xs font-semibold">Spectrum</figcaption>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT + 14}`}
        className="h-36 w-96 max-w-full"
        role="img"
        aria-label={`Mean spectrum from ${lowest} Hz to ${kilohertz(sampleRateHz / 2)}.${ends}`}
      >
        {[-30, -60, -90].map((db) => (
          <g key={db}>
            <line x1={0} x2={WIDTH} y1={y(db)} y2={y(db)} className="stroke-base-300" />
            <text x={2} y={y(db) - 2} className="fill-current text-[9px]">
              {number(db)} dB
            </text>
          </g>
        ))}
        {marksHz
          .filter((hz) => hz < sampleRateHz / 2)
          .map((hz) => (
            <g key={hz}>
              <line x1={x(hz)} x2={x(hz)} y1={0} y2={HEIGHT} className="stroke-base-300" />
              <text
                x={x(hz)}
                y={HEIGHT + 11}
                textAnchor="middle"
                className="fill-current text-[9px]"
              >
                {hz < 1_000 ? `${hz} Hz` : kilohertz(hz)}
              </text>
            </g>
          ))}
        <polyline points={line.join(' ')} className="stroke-primary fill-none" strokeWidth={1.5} />
        {bandwidthHz !== null && (
          <line
            x1={x(bandwidthHz)}
            x2={x(bandwidthHz)}
            y1={0}
            y2={HEIGHT}
            className="stroke-warning"
            strokeDasharray="3 3"
          />
        )}
      </svg>
    </figure>
  );
}
