'use client';

import { useEffect, useRef } from 'react';
import { useThemeTick } from '../../waveform/useWidth';
import type { Stretch } from './hearing';
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
      <Picture label={sides[0].label} levels={left} />
      <Picture label={sides[1].label} levels={right} />
      <Picture
        label="Difference: ink is missing, jewel was added"
        levels={left && right ? right : undefined}
        against={left}
      />
    </div>
  );
}

function Picture({
  label,
  levels,
  against,
}: {
  label: string;
  levels: Uint8Array | undefined;
  against?: Uint8Array | undefined;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const tick = useThemeTick();
  useEffect(() => {
    if (canvas.current && levels) draw(canvas.current, levels, against);
  }, [levels, against, tick]);
  return (
    <figure className="min-w-0">
      <figcaption className="text-soft mb-1 truncate text-xs font-semibold" title={label}>
        {label}
      </figcaption>
      <canvas
        ref={canvas}
        width={COLUMNS}
        height={ROWS}
        className="border-base-300 bg-base-100 block h-36 w-full border"
        role="img"
        aria-label={`Spectrogram: ${label}`}
        data-ready={levels !== undefined}
      />
    </figure>
  );
}

function draw(canvas: HTMLCanvasElement, levels: Uint8Array, against?: Uint8Array): void {
  const context = canvas.getContext('2d');
  if (!context) return;
  const image = new ImageData(COLUMNS, ROWS);
  const words = new Uint32Array(image.data.buffer);
  const ramp = against ? differenceRamp(canvas) : levelRamp(canvas);
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

type Stop = readonly [share: number, token: string];

const levelRamp = (canvas: HTMLCanvasElement) =>
  rampOf(canvas, [
    [0, '--color-base-100'],
    [0.35, '--color-base-100'],
    [0.75, '--color-primary'],
    [1, '--color-base-content'],
  ]);

const differenceRamp = (canvas: HTMLCanvasElement) =>
  rampOf(canvas, [
    [0, '--color-base-content'],
    [0.5, '--color-base-100'],
    [1, '--color-primary'],
  ]);

/** Colours of all levels, as they lie in an image's memory. */
function rampOf(canvas: HTMLCanvasElement, stops: readonly Stop[]): Uint32Array {
  const style = getComputedStyle(canvas);
  const ramp = new OffscreenCanvas(256, 1).getContext('2d')!;
  const gradient = ramp.createLinearGradient(0, 0, 256, 0);
  for (const [share, token] of stops) gradient.addColorStop(share, style.getPropertyValue(token));
  ramp.fillStyle = gradient;
  ramp.fillRect(0, 0, 256, 1);
  return new Uint32Array(ramp.getImageData(0, 0, 256, 1).data.buffer);
}
