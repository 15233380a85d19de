'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { toast } from 'sonner';
import { storedBrief } from '@/core/brief/catalogue';
import type { Sound } from '@/wire';
import { cellAddress } from '../../pack/matrix/address';
import { call } from '../../shared/api';
import { decibels, formatTime, kilohertz, layout, number, size } from '../../shared/format';
import { useLinesOf } from '../../shared/lines';
import { useProject } from '../../shared/project';
import { useAction } from '../../shared/useAction';
import { SendTo } from '../../shared/SendTo';
import { HistoryList } from '../HistoryList';
import { newStep, useWorkbench } from '../workbench';
import { AboveFullScale } from './AboveFullScale';
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
      <Loud />
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

/** What the whole recipe comes to, as soon as it is measured. */
function useResult() {
  const { sound, recipe, problem } = useWorkbench();
  const hasSteps = recipe.steps.some(({ on }) => on);
  const { data } = useLevels(sound, recipe, true, hasSteps && !problem);
  return { data: hasSteps && !problem ? data : undefined, hasSteps };
}

/** Stands above the steps, where it is seen however many there are. */
function Loud() {
  const { recipe, save } = useWorkbench();
  const { data } = useResult();
  return data ? <AboveFullScale levels={data} recipe={recipe} onCure={save} /> : null;
}

/** Before and after, in numbers. */
function Outcome() {
  const { sound, source, recipe, result, problem } = useWorkbench();
  const { data, hasSteps } = useResult();
  const { facts } = sound;
  // What was found out of another recipe says nothing of this one.
  const outcome = recipe === sound.recipe ? sound.outcome : null;
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
      {outcome?.notes.map(({ message }) => (
        <p key={message} className="text-soft mt-1 text-xs">
          {message}
        </p>
      ))}
      <Files seconds={problem ? null : result.frames / result.rateHz} />
      <Goes sound={sound} />
    </div>
  );
}

/** Where the sound goes, and how far that is. */
function Goes({ sound }: { sound: Sound }) {
  const { project, cells, briefs } = useProject();
  const own = cells.filter(({ soundId }) => soundId === sound.id);
  return (
    <div className="mt-1 flex flex-wrap items-center gap-x-2 gap-y-1">
      <SendTo soundIds={[sound.id]} face="Choose where it goes…" />
      {own.map(({ id, briefId }) => (
        <Link
          key={id}
          className="link link-primary text-xs"
          href={cellAddress(project.id, { soundId: sound.id, briefId })}
        >
          {storedBrief(briefs, briefId).title}
        </Link>
      ))}
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
