import { useQuery } from '@tanstack/react-query';
import {
  plainCandidate,
  type Candidate,
  type NamedCandidate,
} from '@/core/compare/candidates/candidate';
import type { PickedSound } from '@/core/compare/pick';
import type { CandidateSets, Comparison, ComparisonSummary, TrialDetails } from '@/wire';
import { call } from '../shared/api';
import { useProject } from '../shared/project';

/** Runs of the project, the newest first; undefined while they are fetched. */
export function useRuns(): ComparisonSummary[] | undefined {
  const { project, trials } = useProject();
  const { data } = useQuery({
    queryKey: ['comparisons', project.id, trials.version],
    queryFn: () => call<ComparisonSummary[]>(`projects/${project.id}/comparisons`),
    placeholderData: (before) => before,
  });
  return data;
}

/** A run with its trials, followed while they come in; null for one that is not kept. */
export function useRun(id: number | null): Comparison | null | undefined {
  const { project, trials, running, work, revision } = useProject();
  const open = [...running.map((job) => job.id), ...work.map((one) => one.open)].join();
  const { data, isError } = useQuery({
    queryKey: ['comparison', project.id, id, trials.version, revision, open],
    queryFn: () => call<Comparison>(`comparisons/${id}`),
    enabled: id !== null,
    placeholderData: (before, query) => (query?.queryKey[2] === id ? before : undefined),
    // While it comes in there is another one after every trial.
    gcTime: 5_000,
    retry: false,
  });
  return isError ? null : data;
}

/** Everything that was measured in a trial. */
export function useTrial(id: number | null): TrialDetails | undefined {
  const { data } = useQuery({
    queryKey: ['trial', id],
    queryFn: () => call<TrialDetails>(`trials/${id}`),
    enabled: id !== null,
    // What was measured stays as it is.
    staleTime: Infinity,
  });
  return data;
}

/** The sets that candidates can be taken from. */
export function useSets() {
  const { project } = useProject();
  const path = `projects/${project.id}/candidate-sets`;
  const { data, refetch } = useQuery({
    queryKey: ['candidate-sets', project.id],
    queryFn: () => call<CandidateSets>(path),
  });
  const { ready = [], own = [], allowed = [] } = data ?? {};
  return { ready, own, allowed, path, refetch };
}

/** Candidates as they are written, with what people call them. @throws ApiError */
export function readCandidates(texts: readonly string[]): Promise<NamedCandidate[]> {
  return call<NamedCandidate[]>('candidates', 'POST', { texts });
}

/** Fine steps of one codec around a candidate. */
export function stepsAround(candidate: Candidate): Promise<NamedCandidate[]> {
  return call<NamedCandidate[]>('candidates', 'POST', { around: plainCandidate(candidate) });
}

/** A few sounds that are as different as can be, and why each. */
export function fewOf(projectId: number): Promise<PickedSound[]> {
  return call<PickedSound[]>(`projects/${projectId}/comparisons/few`);
}
