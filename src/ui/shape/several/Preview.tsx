'use client';

import { Play } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { recipeForMany, type ManyMode } from '@/core/recipe/retime';
import { recipeKey, walkRecipe } from '@/core/recipe/recipe';
import type { Recipe, Shape } from '@/core/recipe/types';
import type { ErrorFacts } from '@/core/errors';
import type { ShapedLevels, Sound } from '@/wire';
import { ApiError } from '../../shared/api';
import { decibels, formatTime, kilohertz, layout, plural } from '../../shared/format';
import { MiddleCut } from '../../shared/MiddleCut';
import { Tool } from '../../shared/Tool';
import { play, useListening } from '../../strip/listening';
import { useCue } from '../../strip/useCue';
import { answerOf } from '../ask';
import { shapeOf } from '../workbench';

/** What steps would do to one sound. */
export interface SoundPreview {
  sound: Sound;
  recipe: Recipe;
  after: Shape;
  /** Why it cannot take them. */
  problem: ErrorFacts | null;
}

export function previewOf(
  sound: Sound,
  recipe: Recipe,
  how: { rateHz: number; mode: ManyMode },
): SoundPreview {
  const source = shapeOf(sound);
  const whole = recipeForMany(recipe, how, sound.recipe, source.rateHz);
  const walked = walkRecipe(whole, source);
  return {
    sound,
    recipe: whole,
    after: walked.at(-1)?.after ?? source,
    problem: walked.find(({ problem }) => problem)?.problem ?? null,
  };
}

export type Measured = ShapedLevels | ErrorFacts;

/** Why a sound cannot take the steps, as far as that is known; null when it can. */
export function refusalOf({ problem }: SoundPreview, measured: Measured | undefined) {
  return problem ?? (measured && 'message' in measured ? measured : null);
}

/** Whether a sound would lie above full scale. */
export function wouldClip(measured: Measured | undefined): boolean {
  return measured !== undefined && !('message' in measured) && (measured.peakDbfs ?? -1) > 0.005;
}

const DRAWN_EVERY_MS = 250;
/** So many lines are on the page; first those that want somebody. */
const MOST_LINES = 300;

/** Levels behind each recipe, measured one after the other while the page is open. */
export function useMeasured(previews: readonly SoundPreview[]): ReadonlyMap<number, Measured> {
  const [found, setFound] = useState<ReadonlyMap<number, Measured>>(new Map());
  const latest = useRef(previews);
  latest.current = previews;
  // What else changes about a sound, or about others, is no reason to begin anew.
  const key = previews
    .map(({ sound, recipe }) => `${sound.id} ${sound.sourceSha256} ${recipeKey(recipe)}`)
    .join('\n');
  useEffect(() => {
    let isOpen = true;
    const measureAll = async () => {
      const next = new Map<number, Measured>();
      let shown = 0;
      for (const { sound, recipe, problem } of latest.current) {
        if (problem) continue;
        const level = await answerOf<ShapedLevels>({ sound, recipe }, 'levels', {
          isThorough: false,
        }).catch((error: unknown) => (error instanceof ApiError ? error.facts : null));
        if (!isOpen) return;
        if (level) next.set(sound.id, level);
        // Thousands one by one would take longer to draw than to measure.
        if (performance.now() - shown < DRAWN_EVERY_MS) continue;
        shown = performance.now();
        setFound(new Map(next));
      }
      setFound(next);
    };
    void measureAll();
    return () => void (isOpen = false);
  }, [key]);
  return found;
}

/** Every chosen sound with what the steps do to it, before anything is done. */
export function Preview({
  previews,
  measured,
  left,
  onLeave,
}: {
  previews: readonly SoundPreview[];
  measured: ReadonlyMap<number, Measured>;
  /** Those that are left out. */
  left: ReadonlySet<number>;
  onLeave: (soundId: number) => void;
}) {
  const cue = useCue();
  const isOdd = (preview: SoundPreview) => {
    const of = measured.get(preview.sound.id);
    return refusalOf(preview, of) !== null || wouldClip(of);
  };
  const listed =
    previews.length > MOST_LINES
      ? [...previews].sort((a, b) => Number(isOdd(b)) - Number(isOdd(a)))
      : previews;
  const hear = ({ sound, recipe }: SoundPreview) => {
    const versions = cue(sound, { recipe });
    const key = versions.find((version) => version.key === `shaped-${sound.id}`)?.key;
    useListening.setState({ current: key ?? versions[0]?.key ?? null });
    play({ frame: 0, range: null });
  };
  return (
    <section aria-label="What it does to each" className="min-w-0 overflow-x-auto">
      <table className="w-full">
        <thead className="text-soft text-left text-xs">
          <tr>
            <th className="pb-1 font-semibold">Sound</th>
            <th className="pb-1 text-right font-semibold">Length</th>
            <th className="pb-1 pl-4 text-right font-semibold">Peak, dBFS</th>
            <th className="pb-1 pl-4 font-semibold">Form</th>
            <th className="sr-only">Hear it</th>
          </tr>
        </thead>
        <tbody>
          {listed.slice(0, MOST_LINES).map((preview) => (
            <Line
              key={preview.sound.id}
              preview={preview}
              measured={measured.get(preview.sound.id)}
              isLeft={left.has(preview.sound.id)}
              onLeave={() => onLeave(preview.sound.id)}
              onHear={() => hear(preview)}
            />
          ))}
        </tbody>
      </table>
      {listed.length > MOST_LINES && (
        <p className="text-soft mt-1">And {plural(listed.length - MOST_LINES, 'other')}.</p>
      )}
    </section>
  );
}

function Line({
  preview,
  measured,
  isLeft,
  onLeave,
  onHear,
}: {
  preview: SoundPreview;
  measured: Measured | undefined;
  isLeft: boolean;
  onLeave: () => void;
  onHear: () => void;
}) {
  const { sound, after } = preview;
  const { facts, name } = sound;
  if (!facts) return null;
  const failed = refusalOf(preview, measured);
  const levels = measured && !('message' in measured) ? measured : null;
  const form = (shape: Shape) => `${kilohertz(shape.rateHz)}, ${layout(shape.channelCount)}`;
  const [was, is] = [form(shapeOf(sound)), form(after)];
  return (
    <tr className={`border-base-300 border-t align-top ${isLeft ? 'opacity-50' : ''}`}>
      <td className="max-w-96 py-1">
        <label className="flex items-start gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-xs checkbox-primary mt-1"
            checked={!isLeft}
            aria-label={`Apply to ${name}`}
            onChange={onLeave}
          />
          <span className="min-w-0">
            <MiddleCut text={name} />
            {failed && (
              <span className="text-error block text-xs">Cannot take them: {failed.message}</span>
            )}
          </span>
        </label>
      </td>
      <td className="py-1 text-right whitespace-nowrap">
        {formatTime(facts.seconds)}
        {!failed && <> → {formatTime(after.frames / after.rateHz)}</>}
      </td>
      <td className="py-1 pl-4 text-right whitespace-nowrap">
        {decibels(facts.peakDbfs)}
        {!failed && (
          <>
            {' → '}
            <span className={wouldClip(measured) ? 'text-warning font-semibold' : ''}>
              {levels ? decibels(levels.peakDbfs) : '…'}
            </span>
            {wouldClip(measured) && <span className="text-warning block text-xs">would clip</span>}
          </>
        )}
      </td>
      <td className="py-1 pl-4 whitespace-nowrap">
        {was === is || failed ? was : `${was} → ${is}`}
      </td>
      <td className="py-0.5 text-right">
        <Tool label={`Hear ${name} with these steps`} disabled={failed !== null} onClick={onHear}>
          <Play size={14} fill="currentColor" />
        </Tool>
      </td>
    </tr>
  );
}
