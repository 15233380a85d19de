'use client';

import { Scale } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { plainCandidate } from '@/core/compare/candidates/candidate';
import type { Comparison } from '@/wire';
import { call } from '../../shared/api';
import { count, plural } from '../../shared/format';
import { useProject } from '../../shared/project';
import { useAction } from '../../shared/useAction';
import { useCandidates, useChosen } from './choice';
import { Candidates } from './Candidates';
import { Sounds } from './Sounds';

/** What is to be tried on what. */
export function Choosing() {
  const { project, sounds } = useProject();
  const router = useRouter();
  const { run, busy } = useAction();
  const { soundIds } = useChosen();
  const candidates = useCandidates();
  const known = new Set(sounds.map(({ id }) => id));
  const chosen = soundIds.filter((id) => known.has(id));
  const trials = chosen.length * candidates.length;
  const begin = () =>
    run(async () => {
      const path = `projects/${project.id}/comparisons`;
      const { id } = await call<Comparison>(path, 'POST', {
        sounds: chosen,
        candidates: candidates.map(plainCandidate),
      });
      router.push(`/p/${project.id}/compare/${id}`);
    });
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-3">
      <div className="grid min-h-0 flex-1 gap-6 lg:grid-cols-2">
        <Sounds />
        <Candidates />
      </div>
      <div className="border-base-300 flex flex-wrap items-center gap-3 border-t pt-3">
        <p role="status" className="mr-auto">
          {trials === 0 ? (
            <span className="text-soft">Choose at least one sound and one candidate.</span>
          ) : (
            <>
              {plural(chosen.length, 'sound')} × {plural(candidates.length, 'candidate')} ={' '}
              <strong>{plural(trials, 'trial')}</strong>
              <span className="text-soft">
                : each is encoded, decoded again and measured; files that are there already are
                used.
              </span>
            </>
          )}
        </p>
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={busy || trials === 0}
          onClick={() => void begin()}
        >
          <Scale size={15} /> Try {trials === 0 ? 'them' : count(trials)}
        </button>
      </div>
    </div>
  );
}
