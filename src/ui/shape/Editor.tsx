'use client';

import { useEffect } from 'react';
import type { Sound } from '@/wire';
import {
  decibels,
  formatName,
  formatTime,
  kilohertz,
  layout,
  plural,
  size,
} from '../shared/format';
import { useLinesOf } from '../shared/lines';
import { useProject } from '../shared/project';
import { cue, makeReady } from '../strip/listening';
import { versionsOf } from '../strip/versions';
import { useDesk, useHabits } from './desk';
import { Facts } from './Facts';
import { Parts } from './join/Parts';
import { LoopBench } from './loop/LoopBench';
import { LoopingProvider, useLooping } from './loop/looping';
import { MarkBar } from './MarkBar';
import { Overview } from './Overview';
import { RecipePanel } from './recipe/RecipePanel';
import { firstSteps, useLevels } from './recipe/StepEffect';
import { ShapeKeys } from './ShapeKeys';
import { Spectrogram } from './Spectrogram';
import { Verbs } from './Verbs';
import { ViewBar, ViewText } from './ViewBar';
import { Waveform } from './Waveform';
import { useWorkbench, WorkbenchProvider } from './workbench';

/** Shows one sound from the whole of it to single frames, and everything that can be done to it. */
export function Editor({ sound, isLooping }: { sound: Sound; isLooping: boolean }) {
  const hasSpectrogram = useHabits((habits) => habits.hasSpectrogram);
  return (
    <WorkbenchProvider sound={sound}>
      <LoopingProvider isOn={isLooping}>
        <Listening />
        <ShapeKeys />
        <FactsLine sound={sound} />
        <div className="mt-2 grid gap-x-6 gap-y-4 xl:grid-cols-[minmax(0,1fr)_23rem]">
          <div className="min-w-0">
            <ViewBar />
            <div className="mt-2">
              <Overview />
            </div>
            <div className="mt-1">
              <Waveform />
            </div>
            {hasSpectrogram && <Spectrogram />}
            {isLooping ? (
              <LoopBench />
            ) : (
              <>
                <ViewText />
                <MarkBar />
                <Verbs />
              </>
            )}
            {sound.join && <Parts sound={sound} join={sound.join} />}
          </div>
          <RecipePanel />
        </div>
        <Facts sound={sound} />
      </LoopingProvider>
    </WorkbenchProvider>
  );
}

/** Keeps the strip's versions those of this sound and its recipe, as it is on the screen. */
function Listening() {
  const { briefs } = useProject();
  const { sound, recipe, problem } = useWorkbench();
  const loop = useLooping().looping?.made?.version ?? null;
  const lines = useLinesOf(sound);
  const part = useDesk((desk) => desk.part);
  const hasSteps = recipe.steps.some(({ on }) => on);
  const { data } = useLevels(sound, recipe, true, hasSteps && !problem);
  const loudness = data ? (data.lufs ?? data.rmsDbfs) : null;
  useEffect(() => {
    const partial = part && { label: part.label, recipe: firstSteps(recipe, part.steps) };
    const versions = versionsOf(sound, { lines, briefs, recipe, loudness, part: partial });
    cue(sound.name, loop ? [...versions, loop] : versions);
    makeReady();
  }, [sound, lines, briefs, recipe, loudness, part, loop]);
  return null;
}

/** What the sound is, in one line; everything else that was measured stands in `Facts`. */
function FactsLine({ sound }: { sound: Sound }) {
  const { facts } = sound;
  if (!facts) return null;
  const parts = [
    formatName(facts.container, facts.codec) +
      (facts.bitDepth === null ? '' : ` ${facts.bitDepth}-bit`),
    kilohertz(facts.sampleRateHz),
    layout(facts.channels),
    `${formatTime(facts.seconds)} (${plural(facts.frames, 'frame')})`,
    size(facts.bytes),
    `peak ${decibels(facts.peakDbfs)} dBFS`,
    `RMS ${decibels(facts.rmsDbfs)} dBFS`,
  ];
  return (
    <ul className="flex flex-wrap gap-x-4 gap-y-1">
      {parts.map((part) => (
        <li key={part}>{part}</li>
      ))}
    </ul>
  );
}
