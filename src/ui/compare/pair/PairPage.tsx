'use client';

import { Play, Square } from 'lucide-react';
import Link from 'next/link';
import { useEffect, useEffectEvent, useState } from 'react';
import type { Comparison } from '@/wire';
import { useKeys } from '../../shared/keys';
import { useProject } from '../../shared/project';
import { useTrial } from '../api';
import { Bands } from './Bands';
import { DIFFERENCE, hear, hearOther, pairUp, quiet, useHearing, type Stretch } from './hearing';
import { Figures, Heard } from './Heard';
import { Moments } from './Moments';
import { Picker, SoundPicker } from './Pickers';
import { Pictures } from './Pictures';
import { sideOf, SOURCE, type Side } from './sides';

const STRETCH_SECONDS = 2;
const lengths = [0.5, 1, 2, 4, 8];

/** A closer look at two sides of one sound: seen, measured and heard in step. */
export function PairPage({ run, ...addressed }: { run: Comparison; left: string; right: string }) {
  const { project } = useProject();
  const [{ left, right }, setPair] = useState(addressed);
  const trial = run.trials.find(({ id }) => String(id) === right);
  const own = run.trials.filter((one) => one.soundId === trial?.soundId && one.measured !== null);
  const other = own.find(({ id }) => String(id) === left);
  if (!trial?.measured) {
    return <p className="text-soft py-10 text-center">That trial is not measured yet.</p>;
  }
  const sides = [
    left === SOURCE || !other ? sideOf(trial, true) : sideOf(other, false),
    sideOf(trial, false),
  ] as const;
  const go = (a: string, b: string) => {
    setPair({ left: a, right: b });
    // By the router it would be another page, and what is heard would end with this one.
    const path = `/p/${project.id}/compare/${run.id}/pair/${a}/${b}`;
    window.history.replaceState(null, '', path);
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto">
      <div className="flex flex-wrap items-center gap-2">
        <Link className="btn btn-paper btn-sm" href={`/p/${project.id}/compare/${run.id}`}>
          All trials
        </Link>
        <SoundPicker run={run} trial={trial} onPick={(id) => go(SOURCE, id)} />
        <Picker
          label="Left"
          value={sides[0].key}
          trials={own}
          hasSource
          onPick={(key) => go(key, right)}
        />
        <span className="text-soft">against</span>
        <Picker label="Right" value={right} trials={own} onPick={(key) => go(left, key)} />
      </div>
      <Look
        key={trial.soundId}
        sides={sides}
        others={own.map((one) => sideOf(one, false))}
        onStep={(by) => {
          const next = own[own.indexOf(trial) + by];
          if (!next) return;
          // Already in step with the others: heard at once, before its pictures come.
          if (useHearing.getState().heard === right) hearOther(String(next.id));
          go(left, String(next.id));
        }}
      />
    </div>
  );
}

function Look({
  sides,
  others,
  onStep,
}: {
  sides: readonly [Side, Side];
  /** All candidates of the sound. */
  others: readonly Side[];
  /** To the candidate so many lines on. */
  onStep: (by: number) => void;
}) {
  const { seconds } = sides[1].trial.measured!.sound;
  const right = useTrial(sides[1].trial.id);
  const left = useTrial(sides[0].isSource ? null : sides[0].trial.id);
  const worst = right?.figures.fidelity.worst[0]?.seconds;
  const [length, setLength] = useState(STRETCH_SECONDS);
  const [chosen, setChosen] = useState<number | null>(null);
  const half = Math.min(seconds, length) / 2;
  const middle = Math.max(half, Math.min(seconds - half, chosen ?? worst ?? half));
  const stretch: Stretch = { from: middle - half, to: middle + half };
  const { isPlaying } = useHearing();
  const play = (to: Stretch = stretch) => {
    // Another candidate has other worst moments; one goes on where one listens.
    setChosen((to.from + to.to) / 2);
    void hear(sides, others, to);
  };
  useEffect(() => quiet, []);
  // What is heard follows what is looked at.
  const keys = sides.map(({ key }) => key).join();
  const follow = useEffectEvent(() => {
    if (useHearing.getState().isPlaying) play();
  });
  useEffect(() => follow(), [stretch.from, stretch.to]);
  const pairAgain = useEffectEvent(() => {
    // What plays already goes on without a break.
    if (useHearing.getState().isPlaying && !pairUp(sides)) play();
  });
  useEffect(() => pairAgain(), [keys]);
  /** The worst moments stand in the order of time. */
  const toMoment = (by: number) => {
    const times = (right?.figures.fidelity.worst ?? [])
      .map((one) => one.seconds)
      .sort((a, b) => a - b);
    const next =
      by > 0
        ? times.find((time) => time > middle + 0.001)
        : times.findLast((time) => time < middle - 0.001);
    if (next !== undefined) setChosen(next);
  };
  const order = [sides[0].key, sides[1].key];
  useKeys({
    space: () => (isPlaying ? quiet() : play()),
    v: () => hearOther(order[(order.indexOf(useHearing.getState().heard) + 1) % 2]!),
    d: () => hearOther(DIFFERENCE),
    up: () => onStep(-1),
    down: () => onStep(1),
    left: () => toMoment(-1),
    right: () => toMoment(1),
  });
  const details = [right, left].flatMap((one) => one ?? []);
  return (
    <>
      <div className="flex flex-wrap items-center gap-2">
        <button
          className="btn btn-primary btn-sm"
          onClick={() => (isPlaying ? quiet() : play())}
          title="Play this stretch around, or stop (Space)"
        >
          {isPlaying ? (
            <Square size={14} fill="currentColor" />
          ) : (
            <Play size={14} fill="currentColor" />
          )}
          {isPlaying ? 'Stop' : 'Hear it'}
        </button>
        <Heard sides={sides} />
        <Figures sides={sides} />
        <label className="text-soft ml-auto flex items-center gap-2 text-xs">
          Stretch
          <select
            className="select select-xs w-20"
            value={length}
            onChange={(event) => setLength(Number(event.target.value))}
          >
            {lengths.map((one) => (
              <option key={one} value={one}>
                {one} s
              </option>
            ))}
          </select>
        </label>
      </div>
      <Moments
        details={details}
        stretch={stretch}
        onStretch={(to) => {
          setChosen((to.from + to.to) / 2);
          if (!isPlaying) play(to);
        }}
      />
      <Pictures sides={sides} stretch={stretch} />
      <Bands details={details} />
    </>
  );
}
