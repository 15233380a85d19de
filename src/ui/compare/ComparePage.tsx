'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { candidateRows, type CandidateRow } from '@/core/compare/rows';
import type { Comparison, Trial } from '@/wire';
import { plural, shortWhen } from '../shared/format';
import { useKeys } from '../shared/keys';
import { useProject } from '../shared/project';
import { useRun, useRuns } from './api';
import { Choosing } from './choose/Choosing';
import { Loading } from './load/Loading';
import { hasLimits, limitsOf, type SizeLimit } from './limits';
import { useLook } from './look';
import { PairPage } from './pair/PairPage';
import { Report } from './report/Report';
import { Exports } from './results/Exports';
import { HowToRead } from './results/HowToRead';
import { RunLine } from './results/RunLine';
import { Scatter } from './results/Scatter';
import { TrialTable } from './results/TrialTable';

/** What of a run is looked at, as its address says. */
export type CompareView =
  | { kind: 'new' }
  | { kind: 'trials' | 'loading' | 'report'; run: number | null }
  | { kind: 'pair'; run: number; left: string; right: string };

/** Codec settings weighed against each other on the project's own sounds. */
export function ComparePage({ view }: { view: CompareView }) {
  const { sounds } = useProject();
  const runs = useRuns();
  const shownId = view.kind === 'new' ? null : (view.run ?? runs?.[0]?.id ?? null);
  const run = useRun(shownId);
  const isChoosing = view.kind === 'new' || runs?.length === 0;
  return (
    <div
      className={`flex min-h-full flex-col px-6 pt-4 pb-3 print:p-0 ${view.kind === 'report' ? '' : 'lg:h-full'}`}
    >
      <Head view={view} runs={runs} run={isChoosing ? null : (run ?? null)} />
      {sounds.length === 0 && (
        <p className="text-soft py-10 text-center">
          Bring a sound in first: drop it anywhere, or take a reference signal below.
        </p>
      )}
      {isChoosing && <Choosing />}
      {!isChoosing && run && <Shown run={run} view={view} />}
      {!isChoosing && run === null && (
        <p className="text-soft py-10 text-center">That comparison is not kept any more.</p>
      )}
    </div>
  );
}

function Head({
  view,
  runs,
  run,
}: {
  view: CompareView;
  runs: ReturnType<typeof useRuns>;
  run: Comparison | null;
}) {
  const { project } = useProject();
  const router = useRouter();
  const base = `/p/${project.id}/compare`;
  useKeys({ n: () => router.push(`${base}/new`) });
  const tab = (kind: CompareView['kind'], path: string, title: string) => (
    <Link
      href={`${base}/${run?.id}${path}`}
      prefetch={false}
      aria-current={view.kind === kind ? 'page' : undefined}
      className="text-soft hover:text-base-content aria-[current]:text-base-content aria-[current]:border-primary -mb-px border-b-2 border-transparent px-2.5 py-0.5 aria-[current]:font-semibold"
    >
      {title}
    </Link>
  );
  return (
    <div className="mb-3 flex flex-wrap items-baseline gap-x-4 gap-y-2 print:hidden">
      <h1 className="font-serif text-3xl">Compare</h1>
      {run ? (
        <>
          <nav aria-label="Views of Compare" className="border-base-300 flex self-center border-b">
            {tab('trials', '', 'Trials')}
            {tab('loading', '/loading', 'Memory and work')}
          </nav>
          <RunLine run={run} />
        </>
      ) : (
        <p className="text-soft">
          What does each setting cost, and what does it do to these very sounds?
        </p>
      )}
      <div className="ml-auto flex flex-wrap items-center gap-2 self-center">
        {runs && runs.length > 0 && <RunPicker runs={runs} shownId={run?.id ?? null} />}
        {run && (
          <Link className="btn btn-primary btn-sm" href={`${base}/new`}>
            Try others…
          </Link>
        )}
      </div>
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
      className="select select-sm w-60"
      value={shownId ?? ''}
      onChange={(event) => router.push(`/p/${project.id}/compare/${event.target.value}`)}
    >
      {shownId === null && <option value="">Earlier runs…</option>}
      {runs.map(({ id, createdAt, soundIds, trials }) => (
        <option key={id} value={id}>
          {shortWhen(createdAt)} ·{' '}
          {soundIds.length === 1 ? nameOf(soundIds[0]) : plural(soundIds.length, 'sound')} ·{' '}
          {plural(trials, 'trial')}
        </option>
      ))}
    </select>
  );
}

const NO_LIMITS: SizeLimit[] = [];

function Shown({ run, view }: { run: Comparison; view: CompareView }) {
  const { briefs, project } = useProject();
  const router = useRouter();
  const { soundId, briefId } = useLook();
  const ids = [...new Set(run.trials.map((trial) => trial.soundId))];
  const shown = soundId !== null && ids.includes(soundId) ? soundId : null;
  if (view.kind === 'pair') return <PairPage run={run} left={view.left} right={view.right} />;
  const rows = candidateRows(
    run.trials.filter((trial) => shown === null || trial.soundId === shown),
  );
  const { machine } = run;
  const lookClosely = (row: CandidateRow<Trial>) => {
    const trial = row.trials.find(({ measured }) => measured !== null);
    if (trial) router.push(`/p/${project.id}/compare/${run.id}/pair/source/${trial.id}`);
  };
  const brief = briefs.find(({ id }) => id === briefId);
  const limits = brief ? limitsOf(brief, rows) : NO_LIMITS;
  if (view.kind === 'report') {
    const soundIds = shown === null ? ids : [shown];
    return <Report {...{ run, rows, limits, soundIds }} />;
  }
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-3">
      <div className="flex flex-wrap gap-4 print:hidden">
        {ids.length > 1 && <SoundPicker ids={ids} shown={shown} />}
        {view.kind === 'trials' && <LimitPicker />}
      </div>
      {view.kind === 'loading' ? (
        <Loading rows={rows} />
      ) : (
        <>
          <div className="border-base-300 bg-base-100 h-[38vh] min-h-64 shrink-0 border p-2">
            <Scatter rows={rows} limits={limits} onOpen={lookClosely} />
          </div>
          <TrialTable rows={rows} runId={run.id} />
        </>
      )}
      <div className="text-soft flex flex-wrap items-baseline gap-x-4 gap-y-1 text-xs">
        <p className="mr-auto">
          <span title={`${machine.system}, Node.js ${machine.node}, Bijou ${machine.bijou}`}>
            {machine.processor}, Node.js {machine.node},{' '}
            {new Date(run.createdAt).toLocaleString('en-GB')}.
          </span>{' '}
          Costs are comparable within one run.
        </p>
        <span className="print:hidden">
          <HowToRead />
        </span>
        <Exports run={run} />
      </div>
    </div>
  );
}

function SoundPicker({ ids, shown }: { ids: readonly number[]; shown: number | null }) {
  const { sounds } = useProject();
  return (
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
  );
}

/** Which destination's limits are drawn in. */
function LimitPicker() {
  const { briefs } = useProject();
  const briefId = useLook((state) => state.briefId);
  const limited = briefs.filter(hasLimits);
  if (limited.length === 0) return null;
  return (
    <label className="flex items-center gap-2 text-sm">
      Limits of
      <select
        className="select select-sm w-48"
        value={briefId ?? ''}
        onChange={({ target: { value } }) =>
          useLook.setState({ briefId: value === '' ? null : value })
        }
      >
        <option value="">no destination</option>
        {limited.map(({ id, title }) => (
          <option key={id} value={id}>
            {title}
          </option>
        ))}
      </select>
    </label>
  );
}
