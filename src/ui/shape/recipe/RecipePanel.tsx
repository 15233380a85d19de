'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { toast } from 'sonner';
import { storedBrief } from '@/core/brief/catalogue';
import type { Sound } from '@/wire';
import { call } from '../../shared/api';
import { decibels, formatTime, kilohertz, layout, number, size } from '../../shared/format';
import { useLinesOf } from '../../shared/lines';
import { useProject } from '../../shared/project';
import { useAction } from '../../shared/useAction';
import { HistoryList } from '../HistoryList';
import { newStep, useWorkbench } from '../workbench';
import { AddStep } from './AddStep';
import { useLevels } from './StepEffect';
import { RecipeShelf } from './RecipeShelf';
import { StepList } from './StepList';

/** What is done to the sound, step by step, and what comes of it. */
export function RecipePanel() {
  const bench = useWorkbench();
  const { sound, source, recipe, result, save, add } = bench;
  return (
    <section aria-label="Recipe" className="min-w-0">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h2 className="font-serif text-xl">Recipe</h2>
        <AddStep onAdd={(kind) => add(newStep(kind, result))} />
      </div>
      <StepList of={bench} />
      <div className="mt-2">
        <RecipeShelf recipe={recipe} source={source} onUse={save} />
      </div>
      <Outcome />
      <Siblings sound={sound} />
      <HistoryList sound={sound} />
    </section>
  );
}

/** Before and after, in numbers. */
function Outcome() {
  const { sound, source, recipe, result, problem } = useWorkbench();
  const { project } = useProject();
  const hasSteps = recipe.steps.some(({ on }) => on);
  const { data } = useLevels(sound, recipe, true, hasSteps && !problem);
  const { facts } = sound;
  if (!facts) return null;
  const rows: [string, string, string | null][] = [
    ['Length', formatTime(facts.seconds), formatTime(result.frames / result.rateHz)],
    ['Rate', kilohertz(source.rateHz), kilohertz(result.rateHz)],
    ['Channels', layout(source.channelCount), layout(result.channelCount)],
    ['Peak', `${decibels(facts.peakDbfs)} dBFS`, data ? `${decibels(data.peakDbfs)} dBFS` : null],
    [
      'True peak',
      `${decibels(facts.truePeakDbtp)} dBTP`,
      data ? `${decibels(data.truePeakDbtp)} dBTP` : null,
    ],
    [
      'Loudness',
      facts.lufs === null ? '–' : `${number(facts.lufs)} LUFS`,
      data ? (data.lufs === null ? '–' : `${number(data.lufs)} LUFS`) : null,
    ],
  ];
  return (
    <div className="border-base-300 mt-3 border-t pt-2">
      <table className="w-full text-left" aria-label="Before and after">
        <tbody>
          {rows.map(([name, before, after]) => (
            <tr key={name}>
              <th className="text-soft py-0.5 pr-2 font-normal">{name}</th>
              <td className="text-right whitespace-nowrap">{before}</td>
              <td className="text-soft px-1">→</td>
              <td className="text-right font-semibold whitespace-nowrap">
                {problem ? '?' : hasSteps ? (after ?? '…') : before}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {data && (data.peakDbfs ?? -1) > 0 && !problem && (
        <p className="text-warning mt-1 text-xs">
          The result is louder than full scale and would be clipped where a file has whole-number
          samples. Lower a gain, or normalise at the end.
        </p>
      )}
      <Files seconds={problem ? null : result.frames / result.rateHz} />
      <Link className="link link-primary" href={`/p/${project.id}/pack#sound-${sound.id}`}>
        Choose where it goes
      </Link>
    </div>
  );
}

/** How large its files are, or will be: as many bytes a second as when they were built last. */
function Files({ seconds }: { seconds: number | null }) {
  const { sound } = useWorkbench();
  const { briefs } = useProject();
  const files = useLinesOf(sound).flatMap(({ assignment, outputs }) =>
    outputs.flatMap(({ id, name, upToDate, verification }) => {
      const facts = verification?.facts;
      if (!facts) return [];
      const title = `${storedBrief(briefs, assignment.briefId).title}, ${name.split('.').at(-1)}`;
      return [{ id, title, upToDate, facts }];
    }),
  );
  if (files.length === 0) return null;
  return (
    <ul aria-label="Files" className="text-soft my-1 text-xs">
      {files.map(({ id, title, upToDate, facts }) => (
        <li key={id} className="flex justify-between gap-2">
          <span>{title}</span>
          <span>
            {size(facts.bytes)}
            {!upToDate && seconds !== null && (
              <> → about {size(Math.round((facts.bytes / facts.seconds) * seconds))}</>
            )}
          </span>
        </li>
      ))}
    </ul>
  );
}

/** New sounds out of this one. */
function Siblings({ sound }: { sound: Sound }) {
  const { result } = useWorkbench();
  const { project } = useProject();
  const { run, busy } = useAction();
  const router = useRouter();
  const splitting = `Split into ${result.channelCount === 2 ? 'two sounds' : 'its channels'}`;
  const make = (how: 'split' | 'copy') =>
    void run(async () => {
      const made = await call<Sound | Sound[]>(`sounds/${sound.id}/${how}`, 'POST');
      const sounds = [made].flat();
      toast(`Made ${sounds.map(({ name }) => `“${name}”`).join(' and ')}.`);
      router.push(`/p/${project.id}/shape/${sounds[0]!.id}`);
    });
  return (
    <div className="mt-2 flex flex-wrap gap-1">
      <button
        className="btn btn-ghost btn-xs"
        disabled={busy}
        aria-label="Copy the sound"
        title="The same source and recipe as another sound, to be shaped otherwise (Shift+D)"
        onClick={() => make('copy')}
      >
        Copy the sound
      </button>
      <button
        className="btn btn-ghost btn-xs"
        disabled={busy || result.channelCount < 2}
        aria-label={splitting}
        title="Every channel as a sound of its own; this one stays (Shift+S)"
        onClick={() => make('split')}
      >
        {splitting}
      </button>
    </div>
  );
}
