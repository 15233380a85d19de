'use client';

import { ApiError, askServer } from '@/player/asking';
import { useEffect, useState } from 'react';
import { FrequencyMarks } from '../waveform/FrequencyMarks';
import { useThemeTick, useWidth } from '../waveform/useWidth';
import { LEVEL_STOPS, rampOf } from '../waveform/ramp';
import type { View } from '../waveform/tiles';
import { useDesk } from './desk';
import { useWorkbench } from './workbench';

const ROWS = 192;
/** Fine enough to see, few enough to come at once. */
const MOST_COLUMNS = 900;
/** While the view moves nothing is asked for. */
const REST_MS = 120;

interface Picture {
  view: View;
  columns: number;
  levels: Uint8Array;
  rateHz: number;
}

/** Pitch over time of the span that the waveform shows, in the same place. */
export function Spectrogram() {
  const { shown, sound } = useWorkbench();
  const view = useDesk((desk) => desk.view);
  const { ref, width } = useWidth<HTMLCanvasElement>();
  const [picture, setPicture] = useState<Picture | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const tick = useThemeTick();
  const { asked, shape } = shown;
  const { rateHz } = shape;

  useEffect(() => {
    if (width === 0) return;
    const abort = new AbortController();
    const rest = setTimeout(() => {
      const columns = Math.max(1, Math.min(MOST_COLUMNS, width, view.end - view.start));
      fetchLevels(
        asked.sound.id,
        { ...span(view), columns, rows: ROWS, recipe: asked.recipe },
        abort.signal,
      )
        .then((levels) => {
          setPicture({ view, columns, levels, rateHz });
          setProblem(null);
        })
        .catch((error: unknown) => {
          if (error instanceof ApiError) setProblem(error.message);
        });
    }, REST_MS);
    return () => {
      clearTimeout(rest);
      abort.abort();
    };
  }, [asked, rateHz, view, width]);

  useEffect(() => {
    if (ref.current && picture) draw(ref.current, picture, view);
  }, [ref, picture, view, width, tick]);

  return (
    <figure className="border-base-300 relative mt-1 h-36 overflow-hidden border-b">
      <canvas
        ref={ref}
        className="size-full"
        role="img"
        aria-label={`Spectrogram of ${sound.name}`}
        data-testid="spectrogram"
        data-ready={picture?.view === view}
      />
      {problem && <p className="text-soft absolute inset-0 grid place-items-center">{problem}</p>}
      <FrequencyMarks rateHz={rateHz} />
    </figure>
  );
}

const span = ({ start, end }: View) => ({ startFrame: start, endFrame: end });

async function fetchLevels(soundId: number, data: object, signal: AbortSignal) {
  const address = `/api/sounds/${soundId}/shaped/spectrogram`;
  const response = await askServer(address, { method: 'POST', data, signal });
  return new Uint8Array(await response.arrayBuffer());
}

/** From paper to ink over the jewel's colour. */
function draw(canvas: HTMLCanvasElement, { view: covers, columns, levels }: Picture, view: View) {
  const context = canvas.getContext('2d');
  if (!context) return;
  canvas.width = canvas.clientWidth;
  canvas.height = canvas.clientHeight;
  const ramp = rampOf(canvas, LEVEL_STOPS);
  const image = new ImageData(columns, ROWS);
  const words = new Uint32Array(image.data.buffer);
  for (let column = 0; column < columns; column++) {
    for (let row = 0; row < ROWS; row++) {
      words[(ROWS - 1 - row) * columns + column] = ramp[levels[column * ROWS + row]!]!;
    }
  }
  const plain = new OffscreenCanvas(columns, ROWS);
  plain.getContext('2d')!.putImageData(image, 0, 0);
  const x = (frame: number) => ((frame - view.start) / (view.end - view.start)) * canvas.width;
  context.drawImage(plain, x(covers.start), 0, x(covers.end) - x(covers.start), canvas.height);
}
