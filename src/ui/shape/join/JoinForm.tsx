'use client';

import { useMemo } from 'react';
import { errorFacts } from '@/core/errors';
import { partFacts, planJoin, type Join, type PlannedJoin } from '@/core/join/plan';
import type { Sound } from '@/wire';
import { formatTime, kilohertz, layout, plural } from '../../shared/format';
import { MiddleCut } from '../../shared/MiddleCut';
import { Popover } from '../../shared/Popover';
import { useProject } from '../../shared/project';
import { SoundSearch } from '../../shared/SoundSearch';
import { GapField } from './GapField';
import { PartList } from './PartList';

type Option = readonly [value: string, text: string];

const overlaps: readonly Option[] = [
  ['crossfade', 'fade into each other'],
  ['mix', 'sound together'],
];
const rates = [8_000, 11_025, 22_050, 24_000, 32_000, 44_100, 48_000, 96_000].map(
  (rate): Option => [String(rate), kilohertz(rate)],
);
const layouts: readonly Option[] = [
  ['', 'as the parts have'],
  ['1', 'mono'],
  ['2', 'stereo'],
];

/** Everything about a join: its sounds, their order and gaps, rate and channels. */
export function JoinForm({
  join,
  self = null,
  onChange,
}: {
  join: Join;
  /** The joined sound itself, which cannot be a part of itself. */
  self?: number | null;
  onChange: (join: Join) => void;
}) {
  const { sounds } = useProject();
  const byId = useMemo(() => new Map(sounds.map((sound) => [sound.id, sound])), [sounds]);
  const { plan, problem } = usePlan(join, byId);
  const candidates = sounds.filter(({ facts, id }) => facts !== null && id !== self);
  const put = (change: Partial<Join>) => onChange({ ...join, ...change });
  const addPart = (soundId: number) =>
    put({ parts: [...join.parts, { soundId, gapSeconds: lastGap(join) }] });
  const gapForAll = (gapSeconds: number) =>
    put({ parts: join.parts.map((part) => ({ ...part, gapSeconds })) });
  return (
    <>
      <PartList join={join} sounds={byId} plan={plan} onChange={(parts) => put({ parts })} />
      <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        <Popover label="Add a sound to the join" face="Add a sound…">
          {() => (
            <SoundSearch
              sounds={candidates}
              onEnter={(found, typed) => typed && found[0] && addPart(found[0].id)}
              line={({ id, name }) => (
                <button
                  type="button"
                  className="hover:bg-base-200 focus-visible:bg-base-200 block w-full rounded px-2 py-1 text-left"
                  onClick={() => addPart(id)}
                >
                  <MiddleCut text={name} />
                </button>
              )}
            />
          )}
        </Popover>
        <AllGaps
          gaps={join.parts.slice(0, -1).map(({ gapSeconds }) => gapSeconds)}
          rateHz={plan?.shape.rateHz ?? 48_000}
          onChange={gapForAll}
        />
        <Choice
          label="Overlaps"
          value={join.overlap}
          options={overlaps}
          onChange={(value) => put({ overlap: value as Join['overlap'] })}
        />
        <Choice
          label="Rate"
          value={String(join.rateHz ?? '')}
          options={[['', 'the highest of the parts'], ...rates]}
          onChange={(value) => put({ rateHz: Number(value) || null })}
        />
        <Choice
          label="Channels"
          value={String(join.channelCount ?? '')}
          options={layouts}
          onChange={(value) => put({ channelCount: Number(value) || null })}
        />
      </div>
      <p role="status" className="mt-3">
        {problem ? (
          <span className="text-error">
            {problem.message} {problem.hint}
          </span>
        ) : (
          plan && (
            <>
              {plural(join.parts.length, 'part')} make{' '}
              <strong>{formatTime(plan.shape.frames / plan.shape.rateHz)}</strong>,{' '}
              {plural(plan.shape.frames, 'frame')}, {kilohertz(plan.shape.rateHz)},{' '}
              {layout(plan.shape.channelCount)}
            </>
          )
        )}
      </p>
    </>
  );
}

function Choice({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: readonly Option[];
  onChange: (value: string) => void;
}) {
  return (
    <label className="flex items-center gap-1.5">
      {label}
      <select
        className="select select-sm w-auto"
        value={value}
        onChange={(event) => onChange(event.target.value)}
      >
        {options.map(([key, text]) => (
          <option key={key} value={key}>
            {text}
          </option>
        ))}
      </select>
    </label>
  );
}

function lastGap({ parts }: Join): number {
  return parts.at(-1)?.gapSeconds ?? 0;
}

/** The gap that all parts have behind them; none where they differ, or where there is only one part. */
function AllGaps({
  gaps,
  rateHz,
  onChange,
}: {
  gaps: readonly number[];
  rateHz: number;
  onChange: (seconds: number) => void;
}) {
  const [first] = gaps;
  if (first === undefined) return null;
  const isSame = gaps.every((gap) => gap === first);
  return (
    <span className="flex items-center gap-1.5">
      All gaps
      <GapField
        label="All gaps"
        seconds={isSame ? first : null}
        rateHz={rateHz}
        onChange={onChange}
      />
    </span>
  );
}

/** Where the parts would lie; why not, where they cannot. */
function usePlan(join: Join, sounds: ReadonlyMap<number, Sound>) {
  return useMemo((): {
    plan: PlannedJoin | null;
    problem: ReturnType<typeof errorFacts> | null;
  } => {
    try {
      const facts = join.parts.flatMap((part) => {
        const sound = sounds.get(part.soundId);
        return sound?.facts ? [partFacts({ ...sound, facts: sound.facts }, part)] : [];
      });
      if (facts.length < join.parts.length) {
        const message = 'A part is not here any more, or has not been read yet.';
        return { plan: null, problem: { code: 'not-found', message, hint: 'Take it out.' } };
      }
      return { plan: planJoin(join, facts), problem: null };
    } catch (error) {
      return { plan: null, problem: errorFacts(error) };
    }
  }, [join, sounds]);
}
