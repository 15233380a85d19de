'use client';

import { RefreshCw, Square, Timer } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { candidateRows } from '@/core/compare/rows';
import { isUnsteady } from '@/core/compare/spread';
import type { Comparison } from '@/wire';
import { call } from '../shared/api';
import { plural } from '../shared/format';
import { useProgress, useProject } from '../shared/project';
import { useAction } from '../shared/useAction';
import { useRun, useRuns } from './api';
import { Choosing } from './choose/Choosing';
import { useLook } from './look';
import { PairPage } from './pair/PairPage';
import { Scatter } from './results/Scatter';
import { TrialTable } from './results/TrialTable';

/** Codec settings weighed against each other on the project's own sounds. `runId` null is the newest run. */
export function ComparePage({
  runId,
  isNew,
  pair = null,
}: {
  runId: number | null;
  isNew: boolean;
  /** Two sides of a sound that are looked at closely. */
  pair?: { left: string; right: string } | null;
}) {
  const { project, sounds } = useProject();
  const runs = useRuns();
  const shownId = isNew ? null : (runId ?? runs?.[0]?.id ?? null);
  const run = useRun(shownId);
  const isChoosing = isNew || runs?.length === 0;
  return (
    <div className="flex min-h-full flex-col px-6 pt-4 pb-3 lg:h-full">
      <div className="mb-3 flex flex-wrap items-baseline gap-x-4 gap-y-2">
        <h1 className="font-serif text-3xl">Compare</h1>
        {isChoosing ? (
          <p className="text-soft">
            What does each setting cost, and what does it do to these very sounds?
          </p>
        ) : (
          run && <RunLine run={run} />
        )}
        <div className="ml-auto flex flex-wrap items-center gap-2 self-center">
          {runs && runs.length > 0 && <RunPicker runs={runs} shownId={shownId} />}
          {!isChoosing && (
            <Link className="btn btn-primary btn-sm" href={`/p/${project.id}/compare/new`}>
              Try others…
            </Link>
          )}
        </div>
      </div>
      {sounds.length === 0 && (
        <p className="text-soft py-10 text-center">
          Bring a sound in first: drop it anywhere, or take a reference signal below.
        </p>
      )}
      {isChoosing && <Choosing />}
      {!isChoosing && run && pair && <PairPage run={run} {...pair} />}
      {!isChoosing && run && !pair && <Results run={run} />}
      {!isChoosing && run === null && (
        <p className="text-soft py-10 text-center">That comparison is not kept any more.</p>
      )}
    </div>
  );
}

function RunPicker({
  runs,
  shownId,
}: {
  runs: NonNullable<ReturnType<typeof useRuns>>;
  shownId: number | null;
}) {
  const { project, sounds } = useProject();
  const router = useRouter();
  const nameOf = (id: number | undefined) => sounds.find((sound) => sound.id === id)?.name ?? '';
  return (
    <select
      aria-label="Run"
      className="select select-sm w-64"
      value={shownId ?? ''}
      onChange={(event) => router.push(`/p/${project.id}/compare/${event.target.value}`)}
    >
      {shownId === null && <option value="">Earlier runs…</option>}
      {runs.map(({ id, createdAt, soundIds, trials }) => (
        <option key={id} value={id}>
          {when(createdAt)} ·{' '}
          {soundIds.length === 1 ? nameOf(soundIds[0]) : plural(soundIds.length, 'sound')} ·{' '}
          {plural(trials, 'trial')}
        </option>
      ))}
    </select>
  );
}

/** How far a run is, and what can be done with it. */
function RunLine({ run }: { run: Comparison }) {
  const { project } = useProject();
  const router = useRouter();
  const { run: act, busy } = useAction();
  const { trials } = run;
  const open = trials.filter(({ state }) => state === 'queued' || state === 'running').length;
  const failed = trials.filter(({ state }) => state === 'failed').length;
  const timed = useTimed(run);
  const isTiming = run.workProgress !== null;
  const isOpen = open > 0 || isTiming;
  const works = trials.flatMap(({ measured }) => measured?.work ?? []);
  const isUntimed = trials.some(({ measured }) => measured && !measured.work);
  const unsteady = works.filter(({ msPerSecond }) => isUnsteady(msPerSecond)).length;
  return (
    <div className="text-soft flex flex-wrap items-center gap-x-3 gap-y-1">
      <span role="status">
        {open > 0
          ? `${trials.length - open - failed} of ${plural(trials.length, 'trial')} measured`
          : isTiming
            ? `timing the decoders, ${Math.round(100 * (timed ?? 0))} %`
            : `${plural(trials.length - failed, 'trial')}${failed > 0 ? `, ${failed} that cannot be` : ''}`}
      </span>
      {isOpen ? (
        <button
          className="btn btn-ghost btn-xs"
          disabled={busy}
          onClick={() => void act(() => call(`comparisons/${run.id}/stop`, 'POST'))}
        >
          <Square size={12} fill="currentColor" /> Stop
        </button>
      ) : (
        <>
          <button
            className="btn btn-ghost btn-xs"
            disabled={busy}
            title="The same candidates on the same sounds, as they are now"
            onClick={() =>
              void act(async () => {
                const made = await call<Comparison>(`comparisons/${run.id}/again`, 'POST');
                router.push(`/p/${project.id}/compare/${made.id}`);
              })
            }
          >
            <RefreshCw size={12} /> Again
          </button>
          {(isUntimed || unsteady > 0) && (
            <button
              className="btn btn-ghost btn-xs"
              disabled={busy}
              onClick={() => void act(() => call(`comparisons/${run.id}/time`, 'POST'))}
            >
              <Timer size={12} />{' '}
              {isUntimed ? 'Time the decoders' : `${plural(unsteady, 'cost')} unsure: time again`}
            </button>
          )}
        </>
      )}
    </div>
  );
}

/** How far timing is, as fast as it is told. */
function useTimed({ id, workProgress }: Comparison): number | null {
  const { jobs } = useProject();
  const job = jobs.find(({ kind, subjectId }) => kind === 'decoding' && subjectId === id);
  const heard = useProgress(({ byJob }) => (job ? byJob[job.id] : undefined));
  return heard ?? workProgress;
}

function Results({ run }: { run: Comparison }) {
  const { sounds } = useProject();
  const soundId = useLook((state) => state.soundId);
  const ids = [...new Set(run.trials.map((trial) => trial.soundId))];
  const shown = soundId !== null && ids.includes(soundId) ? soundId : null;
  const rows = candidateRows(
    run.trials.filter((trial) => shown === null || trial.soundId === shown),
  );
  const { machine } = run;
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-3">
      {ids.length > 1 && (
        <label className="flex items-center gap-2 text-sm">
          On
          <select
            className="select select-sm w-72"
            value={shown ?? ''}
            onChange={({ target: { value } }) =>
              useLook.setState({ soundId: value === '' ? null : Number(value) })
            }
          >
            <option value="">all {plural(ids.length, 'sound')}: the middle, with its spread</option>
            {ids.map((id) => (
              <option key={id} value={id}>
                {sounds.find((sound) => sound.id === id)?.name ?? 'a sound that is gone'}
              </option>
            ))}
          </select>
        </label>
      )}
      <div className="border-base-300 bg-base-100 h-[38vh] min-h-64 shrink-0 border p-2">
        <Scatter rows={rows} />
      </div>
      <TrialTable rows={rows} runId={run.id} />
      <p className="text-soft text-xs">
        Measured on {machine.processor} ({machine.system}, Node.js {machine.node}, Bijou{' '}
        {machine.bijou}), {new Date(run.createdAt).toLocaleString('en-GB')}. Costs are comparable
        within one run.
      </p>
    </div>
  );
}

function when(text: string): string {
  const date = new Date(text);
  const isToday = date.toDateString() === new Date().toDateString();
  return isToday
    ? date.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
    : date.toLocaleDateString('en-GB', { day: 'numeric', month: 'short' });
}
