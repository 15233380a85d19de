'use client';

import { useEffect, useRef, useState } from 'react';
import {
  clicks,
  scoreParts,
  seamFigures,
  sideFrames,
  sidesOf,
  type SeamFigures,
} from '@/core/loop/seam';
import type { Sides } from '@/core/loop/seam/sides';
import { SpectrumMeter, type SpectrumFacts } from '@/core/measure/spectrum';
import type { Block } from '@/core/pcm/pcm';
import { number } from '../../shared/format';
import { useThemeTick } from '../../waveform/useWidth';
import { useHabits } from '../desk';
import { drawLens, lensGain, lensWidths } from './lens';
import { Hear } from './Hear';
import type { Looping } from './looping';
import { SideSpectra } from './SideSpectra';

/** The seam as it will play: drawn, in figures, and as one score. */
export function Seam({ looping }: { looping: Looping }) {
  const at = useHabits((habits) => habits.lens);
  const ms = lensWidths[at]!;
  const canvas = useRef<HTMLCanvasElement>(null);
  const { found, gain } = useSeam(looping, ms, canvas);
  return (
    <section aria-label="Seam">
      <h2 className="sr-only">The seam</h2>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <Hear looping={looping} />
        <span className="ml-auto">
          <LensWidth at={at} />
        </span>
      </div>
      <div className="mt-1.5 grid gap-x-5 gap-y-2 md:grid-cols-[minmax(0,1fr)_16rem]">
        <div className="min-w-0">
          <Lens canvas={canvas} ms={ms} gain={gain} isDrawn={found !== null} />
          {found && <SideSpectra {...found.spectra} rateHz={looping.before.shape.rateHz} />}
        </div>
        {found ? <Score figures={found.figures} /> : <p className="text-soft">measuring …</p>}
      </div>
    </section>
  );
}

function LensWidth({ at }: { at: number }) {
  const ms = lensWidths[at]!;
  return (
    <label
      className="text-soft flex items-center gap-2 text-xs"
      title="How much of both sides is shown ([ and ])"
    >
      <span>Lens</span>
      <input
        type="range"
        aria-label="Width of the lens"
        aria-valuetext={widthText(ms)}
        className="range range-xs text-primary w-28"
        min={0}
        max={lensWidths.length - 1}
        value={at}
        onChange={(event) => useHabits.setState({ lens: Number(event.target.value) })}
      />
      <span className="w-12">{widthText(ms)}</span>
    </label>
  );
}

function widthText(ms: number): string {
  return ms >= 1_000 ? `${ms / 1_000} s` : `${ms} ms`;
}

interface Found {
  figures: SeamFigures;
  spectra: { before: SpectrumFacts['spectrum']; behind: SpectrumFacts['spectrum'] };
}

/** Figures follow the picture as soon as it is on the screen. */
const FIGURES_AFTER_MS = 20;

/** Reads what lies on both sides, draws it at once and then measures it, anew whenever the loop is another. */
function useSeam(
  { made, before }: Looping,
  ms: number,
  canvas: React.RefObject<HTMLCanvasElement | null>,
) {
  const [found, setFound] = useState<Found | null>(null);
  const [gain, setGain] = useState(1);
  const tick = useThemeTick();
  useEffect(() => {
    if (!made) return setFound(null);
    let isCurrent = true;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const { rateHz } = made.sound;
    const wide = Math.max(2, Math.round((ms / 2_000) * rateHz));
    const measured = sideFrames(rateHz);
    let size: ResizeObserver | null = null;
    sidesOf(made.sound, made.parts.repeat, Math.max(wide, measured))
      .then((all) => {
        if (!isCurrent || !canvas.current) return;
        const shown = narrowed(all, wide);
        const larger = lensGain(shown);
        const draw = () => canvas.current && drawLens(canvas.current, shown, larger);
        draw();
        size = new ResizeObserver(draw);
        size.observe(canvas.current);
        timer = setTimeout(() => {
          setGain(larger);
          setFound(measuredSides(narrowed(all, measured)));
        }, FIGURES_AFTER_MS);
      })
      // The recipe panel says what is wrong.
      .catch(() => isCurrent && setFound(null));
    return () => {
      isCurrent = false;
      clearTimeout(timer);
      size?.disconnect();
    };
  }, [made, ms, tick, canvas]);
  // What one hears next lies around both ends.
  useEffect(() => {
    if (!made) return;
    const near = NEAR_SECONDS * made.sound.rateHz;
    const { startFrame, endFrame } = made.parts.first;
    for (const edge of [endFrame, startFrame]) before.sound.fetchAhead(edge - near, edge + near);
  }, [made, before]);
  return { found, gain };
}

function measuredSides(sides: Sides): Found {
  const { rateHz } = sides;
  return {
    figures: seamFigures(sides),
    spectra: { before: spectrumOf(sides.before, rateHz), behind: spectrumOf(sides.behind, rateHz) },
  };
}

const NEAR_SECONDS = 3;

function narrowed(sides: Sides, frames: number): Sides {
  const before = sides.before.map((channel) => channel.subarray(channel.length - frames));
  const behind = sides.behind.map((channel) => channel.subarray(0, frames));
  return { ...sides, before, behind };
}

function spectrumOf(block: Block, rateHz: number): SpectrumFacts['spectrum'] {
  const meter = new SpectrumMeter(rateHz, block.length);
  meter.push(block);
  return meter.result().spectrum;
}

/** The picture: on the left what ends, on the right what begins. */
function Lens({
  canvas,
  ms,
  gain,
  isDrawn,
}: {
  canvas: React.RefObject<HTMLCanvasElement | null>;
  ms: number;
  /** How much larger than it is the sound is drawn. */
  gain: number;
  isDrawn: boolean;
}) {
  const half = widthText(ms / 2);
  return (
    <figure>
      <div className="border-base-300 bg-base-100 relative h-40 border-y">
        <canvas
          ref={canvas}
          role="img"
          aria-label={`The seam: the last and the first ${half} of the loop, joined as they will play`}
          data-testid="lens"
          data-drawn={isDrawn ? 'yes' : 'no'}
          className="size-full"
        />
      </div>
      <figcaption className="text-soft flex justify-between text-xs">
        <span>− {half}</span>
        <span>the end, then the start</span>
        <span>
          {gain > 1.05 && <span className="mr-3">drawn {number(gain, 1)} × as high</span>}+ {half}
        </span>
      </figcaption>
    </figure>
  );
}

/** One number, and what it is made of. */
function Score({ figures }: { figures: SeamFigures }) {
  return (
    <div>
      <p className="flex items-baseline gap-2">
        <strong className="font-serif text-4xl" data-testid="seam-score">
          {number(figures.score, 0)}
        </strong>
        <span className="text-soft">of 100, {verdict(figures)}</span>
      </p>
      <dl className="mt-1">
        {scoreParts.map(({ name, value, keeps, sentence }) => {
          const kept = keeps(figures);
          return (
            <div
              key={name}
              className="border-base-300 grid grid-cols-[minmax(0,1fr)_auto] gap-x-2 border-t py-1"
              title={sentence}
            >
              <dt>{name}</dt>
              <dd className={kept < 0.8 ? 'text-warning font-semibold' : 'font-semibold'}>
                {value(figures)}
              </dd>
              <dd className="text-soft col-span-2 text-xs">
                {kept > 0.995
                  ? 'takes nothing'
                  : `takes ${number((1 - kept) * 100, 0)} % of what the others leave`}
              </dd>
            </div>
          );
        })}
      </dl>
      <details className="text-soft mt-1 text-xs">
        <summary className="cursor-pointer">How the score is made</summary>
        <p className="mt-1">
          It begins at 100. Each part takes its share of what the others leave.
        </p>
        {scoreParts.map(({ name, sentence }) => (
          <p key={name} className="mt-1">
            <strong>{name}.</strong> {sentence}
          </p>
        ))}
      </details>
    </div>
  );
}

function verdict(figures: SeamFigures): string {
  if (clicks(figures)) return 'it clicks';
  if (figures.score >= 90) return 'hardly heard';
  return figures.score >= 65 ? 'heard, but no click' : 'clearly heard, but no click';
}
