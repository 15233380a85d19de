'use client';

import { RefreshCw, Square, Timer } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { isUnsteady } from '@/core/compare/spread';
import type { Comparison } from '@/wire';
import { call } from '../../shared/api';
import { plural } from '../../shared/format';
import { useProject } from '../../shared/project';
import { useWorkOn } from '../../shared/work';
import { useAction } from '../../shared/useAction';

/** How far a run is, and what can be done with it. */
export function RunLine({ run }: { run: Comparison }) {
  const timed = useTimed(run);
  const { trials } = run;
  const open = trials.filter(({ state }) => state === 'queued' || state === 'running').length;
  const failed = trials.filter(({ state }) => state === 'failed').length;
  const isTiming = run.workProgress !== null;
  const said =
    open > 0
      ? `${trials.length - open - failed} of ${plural(trials.length, 'trial')} measured`
      : isTiming
        ? `timing the decoders, ${Math.round(100 * (timed ?? 0))} %`
        : `${plural(trials.length - failed, 'trial')}${failed > 0 ? `, ${failed} that cannot be` : ''}`;
  return (
    <div className="text-soft flex flex-wrap items-center gap-x-3 gap-y-1">
      <span role="status">{said}</span>
      {open > 0 || isTiming ? <Stop run={run} /> : <Again run={run} />}
    </div>
  );
}

function Stop({ run }: { run: Comparison }) {
  const { run: act, busy } = useAction();
  return (
    <button
      className="btn btn-ghost btn-xs"
      disabled={busy}
      onClick={() => void act(() => call(`comparisons/${run.id}/stop`, 'POST'))}
    >
      <Square size={12} fill="currentColor" /> Stop
    </button>
  );
}

function Again({ run }: { run: Comparison }) {
  const { project } = useProject();
  const router = useRouter();
  const { run: act, busy } = useAction();
  const isUntimed = run.trials.some(({ measured }) => measured && !measured.work);
  const works = run.trials.flatMap(({ measured }) => measured?.work ?? []);
  const unsteady = works.filter(({ msPerSecond }) => isUnsteady(msPerSecond)).length;
  return (
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
          title="What decoding costs, measured anew; best while nothing else goes on"
          onClick={() => void act(() => call(`comparisons/${run.id}/time`, 'POST'))}
        >
          <Timer size={12} />{' '}
          {isUntimed ? 'Time the decoders' : `${plural(unsteady, 'cost')} unsure: time again`}
        </button>
      )}
    </>
  );
}

/** How far timing is, as fast as it is told. */
function useTimed({ id, workProgress }: Comparison): number | null {
  return useWorkOn('decoding', id).progress ?? workProgress;
}
