'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { peakCures } from '@/core/recipe/peakCures';
import { walkRecipe } from '@/core/recipe/recipe';
import type { ManyMode } from '@/core/recipe/retime';
import { emptyRecipe, type Recipe, type Shape } from '@/core/recipe/types';
import type { Applied } from '@/wire';
import { plural } from '../../shared/format';
import { pressButton, useKeys } from '../../shared/keys';
import { useProject } from '../../shared/project';
import { SendTo } from '../../shared/SendTo';
import { useChange } from '../../shared/useChange';
import { useTold } from '../../shared/history';
import { AddStep } from '../recipe/AddStep';
import { RecipeShelf } from '../recipe/RecipeShelf';
import type { RecipeOf } from '../recipe/recipeOf';
import { StepList } from '../recipe/StepList';
import { newStep, shapeOf } from '../workbench';
import { useChosenFor, useReadSounds } from '../chosen';
import {
  Preview,
  previewOf,
  refusalOf,
  useMeasured,
  wouldClip,
  type SoundPreview,
} from './Preview';
import { Together } from './Together';

/** Steps for many sounds at once, with what they do to each before anything is done. */
export function Several({ address }: { address: string | undefined }) {
  const soundIds = useChosenFor(address);
  const { project } = useProject();
  const router = useRouter();
  const { change, busy } = useChange();
  const told = useTold();
  const [recipe, setRecipe] = useState<Recipe>(emptyRecipe);
  const [name, setName] = useState<string | undefined>();
  const [mode, setMode] = useState<ManyMode>('behind');
  useKeys({ a: () => pressButton('Add a step'), e: () => pressButton('Send to') });
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const chosen = useReadSounds(soundIds);
  // Times are typed for the first sound; every other gets them at its own rate.
  const model = chosen[0] ? shapeOf(chosen[0]) : null;
  const previews = useMemo(
    () =>
      model ? chosen.map((sound) => previewOf(sound, recipe, { rateHz: model.rateHz, mode })) : [],
    [chosen, recipe, model, mode],
  );
  const measured = useMeasured(previews);
  if (!model) return <Nothing projectId={project.id} />;
  const wanted = previews.filter(({ sound }) => !left.has(sound.id));
  const of = (preview: SoundPreview) => measured.get(preview.sound.id);
  const able = wanted.filter((preview) => !refusalOf(preview, of(preview)));
  const loud = able.filter((preview) => wouldClip(of(preview)));
  const save = (next: Recipe, saved?: string) => {
    setRecipe(next);
    setName(saved);
  };
  const apply = async () => {
    const made = await change<Applied>(`projects/${project.id}/shaping`, 'POST', {
      sounds: able.map(({ sound }) => sound.id),
      recipe,
      rateHz: model.rateHz,
      mode,
      ...(name !== undefined && { name }),
    });
    if (!made) return;
    const unable = wanted.length - able.length + made.failed.length;
    told(
      `Steps applied to ${plural(made.changed, 'sound')}` +
        (unable > 0 ? `; ${unableText(unable)}.` : '.'),
      made.changeId,
    );
    router.push(`/p/${project.id}/collect`);
  };
  return (
    <div className="px-6 py-5">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1 className="font-serif text-3xl">Shape several</h1>
        <p className="text-soft">{plural(chosen.length, 'sound')} chosen</p>
        <span className="ml-auto">
          <SendTo soundIds={chosen.map(({ id }) => id)} />
        </span>
      </div>
      <div className="mt-3 grid gap-x-8 gap-y-4 lg:grid-cols-[24rem_minmax(0,1fr)]">
        <section aria-label="Recipe">
          <div className="flex items-center justify-between">
            <h2 className="font-serif text-xl">Steps</h2>
            <AddStep onAdd={(kind) => save(added(recipe, kind, model))} />
          </div>
          <StepList of={listOf(recipe, model, save)} />
          <Together
            sounds={able.map(({ sound }) => sound)}
            recipe={recipe}
            rateHz={model.rateHz}
            mode={mode}
            onRecipe={(next) => save(next, name)}
          />
          <div className="mt-2">
            <RecipeShelf recipe={recipe} source={model} onUse={save} />
          </div>
          <fieldset className="mt-3">
            <legend className="text-soft text-xs font-semibold">They stand</legend>
            <Mode value="behind" current={mode} onChange={setMode}>
              behind the steps that each sound has
            </Mode>
            <Mode value="instead" current={mode} onChange={setMode}>
              in place of the steps that each sound has
            </Mode>
          </fieldset>
          <div className="mt-4 flex items-center gap-2">
            <button
              className="btn btn-primary btn-sm"
              disabled={
                busy || able.length === 0 || (recipe.steps.length === 0 && mode === 'behind')
              }
              onClick={apply}
            >
              Apply to {plural(able.length, 'sound')}
            </button>
            <Link className="btn btn-ghost btn-sm" href={`/p/${project.id}/collect`}>
              Leave
            </Link>
          </div>
          {wanted.length > able.length && (
            <p className="text-warning mt-1">
              {unableText(wanted.length - able.length)}; the list says why.
            </p>
          )}
          {loud.length > 0 && (
            <div
              role="status"
              className="border-warning/60 mt-2 rounded border px-2 py-1.5 text-xs"
            >
              <p className="text-warning font-semibold">
                {plural(loud.length, 'sound')} would clip: their peaks lie above full scale.
              </p>
              <div className="mt-1 flex flex-wrap gap-1">
                {peakCures(recipe, null).map(({ name: cure, steps }) => (
                  <button
                    key={cure}
                    className="btn btn-paper btn-xs"
                    onClick={() => save({ ...recipe, steps: steps(recipe) }, name)}
                  >
                    {cure}
                  </button>
                ))}
              </div>
            </div>
          )}
        </section>
        <Preview
          previews={previews}
          measured={measured}
          left={left}
          onLeave={(id) => {
            const next = new Set(left);
            if (!next.delete(id)) next.add(id);
            setLeft(next);
          }}
        />
      </div>
    </div>
  );
}

function unableText(count: number): string {
  const left = count === 1 ? 'is left as it is' : 'are left as they are';
  return `${plural(count, 'sound')} cannot take them and ${left}`;
}

function added(recipe: Recipe, kind: string, model: Shape): Recipe {
  const before = walkRecipe(recipe, model).at(-1)?.after ?? model;
  // Many sounds have a preview of their own.
  return { ...recipe, steps: [...recipe.steps, { ...newStep(kind, before), on: true }] };
}

function listOf(recipe: Recipe, source: Shape, save: (recipe: Recipe) => void): RecipeOf {
  return { sound: null, source, recipe, walked: walkRecipe(recipe, source), save };
}

function Mode({
  value,
  current,
  onChange,
  children,
}: {
  value: ManyMode;
  current: ManyMode;
  onChange: (mode: ManyMode) => void;
  children: React.ReactNode;
}) {
  return (
    <label className="flex items-center gap-2 py-0.5">
      <input
        type="radio"
        name="mode"
        className="radio radio-xs radio-primary"
        checked={value === current}
        onChange={() => onChange(value)}
      />
      {children}
    </label>
  );
}

function Nothing({ projectId }: { projectId: number }) {
  return (
    <div className="mx-auto max-w-xl px-6 py-16 text-center">
      <h1 className="font-serif text-3xl">Shape several</h1>
      <p className="text-soft mt-2">
        No sounds are chosen. Choose some in Collect, then “Shape them”.
      </p>
      <Link className="btn btn-paper btn-sm mt-5" href={`/p/${projectId}/collect`}>
        Go to Collect
      </Link>
    </div>
  );
}
