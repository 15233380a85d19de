'use client';

import { useEffect, useRef, type ReactNode } from 'react';
import { FrequencyMarks } from '../../waveform/FrequencyMarks';
import { LEVEL_STOPS, rampOf, type RampStop } from '../../waveform/ramp';
import { useThemeTick } from '../../waveform/useWidth';
import type { Stretch } from './hearing';
import { Places, pointing } from './Place';
import { COLUMNS, ROWS, usePicture, type Side } from './sides';

/** So many steps of a level from the one to the other are drawn in full colour: about 20 dB. */
const FULL_DIFFERENCE = 46;

/** Both sides over time and pitch, and what one has more or less than the other, on one scale. */
export function Pictures({ sides, stretch }: { sides: readonly [Side, Side]; stretch: Stretch }) {
  const rateHz = sides[0].trial.measured!.sound.sampleRateHz;
  const [start, end] = [Math.round(stretch.from * rateHz), Math.round(stretch.to * rateHz)];
  const left = usePicture(sides[0], start, end);
  const right = usePicture(sides[1], start, end);
  return (
    <div className="grid gap-3 md:grid-cols-3">
      <Picture label={sides[0].label} levels={left} rateHz={rateHz} stretch={stretch} />
      <Picture label={sides[1].label} levels={right} rateHz={rateHz} stretch={stretch} />
      <Picture
        label="Difference"
        levels={left && right ? right : undefined}
        against={left}
        rateHz={rateHz}
        stretch={stretch}
      >
        <span className="bg-base-content ml-2 inline-block size-2" /> missing
        <span className="bg-primary ml-2 inline-block size-2" /> added
      </Picture>
    </div>
  );
}

function Picture({
  label,
  levels,
  against,
  rateHz,
  stretch,
  children,
}: {
  label: string;
  levels: Uint8Array | undefined;
  against?: Uint8Array | undefined;
  rateHz: number;
  stretch: Stretch;
  /** What the colours mean. */
  children?: ReactNode;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const tick = useThemeTick();
  useEffect(() => {
    if (canvas.current && levels) draw(canvas.current, levels, against);
  }, [levels, against, tick]);
  return (
    <figure className="min-w-0">
      <figcaption className="text-soft mb-1 truncate text-xs" title={label}>
        <span className="font-semibold">{label}</span>
        {children}
      </figcaption>
      <div className="border-base-300 relative overflow-hidden border" {...pointing(stretch)}>
        <canvas
          ref={canvas}
          width={COLUMNS}
          height={ROWS}
          className="bg-base-100 block h-36 w-full"
          role="img"
          aria-label={`Spectrogram: ${label}`}
          data-ready={levels !== undefined}
        />
        <FrequencyMarks rateHz={rateHz} />
        <Places stretch={stretch} isNamed />
      </div>
    </figure>
  );
}

function draw(canvas: HTMLCanvasElement, levels: Uint8Array, against?: Uint8Array): void {
  const context = canvas.getContext('2d');
  if (!context) return;
  const image = new ImageData(COLUMNS, ROWS);
  const words = new Uint32Array(image.data.buffer);
  const ramp = rampOf(canvas, against ? DIFFERENCE_STOPS : LEVEL_STOPS);
  for (let column = 0; column < COLUMNS; column++) {
    for (let row = 0; row < ROWS; row++) {
      const at = column * ROWS + row;
      const value = against ? seen(levels[at]!) - seen(against[at]!) : levels[at]!;
      const place = against
        ? Math.max(0, Math.min(255, 128 + Math.round((127 * value) / FULL_DIFFERENCE)))
        : value;
      words[(ROWS - 1 - row) * COLUMNS + column] = ramp[place]!;
    }
  }
  context.putImageData(image, 0, 0);
}

/** What lies below is paper in the pictures, and differs from nothing. */
const seen = (level: number) => Math.max(level, 0.35 * 255);

/** From what is missing to what was added. */
const DIFFERENCE_STOPS: readonly RampStop[] = [
  [0, '--color-base-content'],
  [0.5, '--color-base-100'],
  [1, '--color-primary'],
];
