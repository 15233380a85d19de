'use client';

import { Play } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { recipeForMany, type ManyMode } from '@/core/recipe/retime';
import { recipeKey, walkRecipe } from '@/core/recipe/recipe';
import type { Recipe, Shape } from '@/core/recipe/types';
import type { ErrorFacts } from '@/core/errors';
import type { ShapedLevels, Sound } from '@/wire';
import { ApiError } from '../../shared/api';
import { decibels, formatTime, kilohertz, layout } from '../../shared/format';
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

type Measured = ShapedLevels | ErrorFacts;

/** Levels behind each recipe, measured one after the other while the page is open. */
function useMeasured(previews: readonly SoundPreview[]): ReadonlyMap<number, Measured> {
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
      for (const { sound, recipe, problem } of latest.current) {
        if (problem) continue;
        const level = await answerOf<ShapedLevels>({ sound, recipe }, 'levels', {
          isThorough: false,
        }).catch((error: unknown) => (error instanceof ApiError ? error.facts : null));
        if (!isOpen) return;
        if (level) next.set(sound.id, level);
        setFound(new Map(next));
      }
    };
    void measureAll();
    return () => void (isOpen = false);
  }, [key]);
  return found;
}

/** Every chosen sound with what the steps do to it, before anything is done. */
export function Preview({
  previews,
  left,
  onLeave,
}: {
  previews: readonly SoundPreview[];
  /** Those that are left out. */
  left: ReadonlySet<number>;
  onLeave: (soundId: number) => void;
}) {
  const measured = useMeasured(previews);
  const cue = useCue();
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
          {previews.map((preview) => (
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
    </section>
  );
}

function Line({
  preview: { sound, after, problem },
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
  const { facts, name } = sound;
  if (!facts) return null;
  const failed = problem ?? (measured && 'message' in measured ? measured : null);
  const levels = measured && !('message' in measured) ? measured : null;
  const form = (shape: Shape) => `${kilohertz(shape.rateHz)}, ${layout(shape.channelCount)}`;
  const [was, is] = [form(shapeOf(sound)), form(after)];
  return (
    <tr className={`border-base-300 border-t align-top ${isLeft ? 'opacity-50' : ''}`}>
      <td className="py-1">
        <label className="flex items-start gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-xs checkbox-primary mt-1"
            checked={!isLeft}
            aria-label={`Apply to ${name}`}
            onChange={onLeave}
          />
          <span>
            {name}
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
            <span className={(levels?.peakDbfs ?? -1) > 0 ? 'text-warning font-semibold' : ''}>
              {levels ? decibels(levels.peakDbfs) : '…'}
            </span>
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
