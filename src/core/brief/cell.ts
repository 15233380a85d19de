import type { ErrorFacts } from '../errors';
import type { Judged } from './check';
import type { Need } from './needs';
import type { Finding } from './types';
import { unmet } from './unmet';

/**
 * fits: it goes as it is · convert: something is made of it · decide: it waits for a choice · cannot: no choice would
 * help · working: it is being built · built: all is there · outdated: what is there was made of something else ·
 * failed: building it failed, or its brief would not take what came of it.
 */
export type CellState =
  'fits' | 'convert' | 'decide' | 'cannot' | 'working' | 'built' | 'outdated' | 'failed';

/** How far a file is. */
export type WorkState = 'queued' | 'running' | 'done' | 'failed' | 'cancelled';

/** What a need says of the state of its cell. */
export interface NeedInShort {
  /** Why it cannot be made as things are. */
  obstacle: ErrorFacts | null;
  /** A choice would make it possible: all that stands against it waits for one. */
  isDecidable: boolean;
  /** Somebody has to decide about what lies above full scale. */
  clips: boolean;
  /** All of its files are handed on as they are. */
  isCopied: boolean;
}

export function inShort({ obstacle, findings, files }: Need): NeedInShort {
  const open = findings.filter(({ verdict }) => verdict === 'decide' || verdict === 'cannot');
  return {
    obstacle,
    isDecidable: open.length > 0 && open.every(({ verdict }) => verdict === 'decide'),
    clips: isClipping(findings),
    isCopied: files.every(({ plan }) => plan.isCopy),
  };
}

/** What a brief says of a finished file, in short. */
export type Verdict = 'accepted' | 'undecided' | 'refused';

export function verdictInShort({ findings, accepted }: Judged): Verdict {
  if (accepted) return 'accepted';
  return unmet(findings).some(({ verdict }) => verdict === 'decide') ? 'undecided' : 'refused';
}

/** What has come of one file of a cell. */
export interface FileInShort {
  state: WorkState;
  /** It is what would be made now. */
  upToDate: boolean;
  /** null while it is not finished. */
  verdict: Verdict | null;
}

/** In which state a cell is, from what it needs and what has come of it. */
export function cellState(
  { obstacle, isDecidable, isCopied }: NeedInShort,
  files: readonly FileInShort[],
  missing: number,
): CellState {
  const current = files.filter(({ upToDate }) => upToDate);
  const has = (...states: WorkState[]) => current.some(({ state }) => states.includes(state));
  const isJudged = (...verdicts: Verdict[]) =>
    current.some(({ verdict }) => verdict !== null && verdicts.includes(verdict));
  if (has('queued', 'running')) return 'working';
  if (obstacle) return isDecidable ? 'decide' : 'cannot';
  if (isJudged('undecided')) return 'decide';
  if (missing === 0) return 'built';
  if (has('failed') || isJudged('refused')) return 'failed';
  if (files.some(({ state }) => state === 'done')) return 'outdated';
  return isCopied ? 'fits' : 'convert';
}

/** Whether somebody has to decide about what lies above full scale. */
export function isClipping(findings: readonly Finding[]): boolean {
  return findings.some(
    ({ requirement, verdict }) => requirement === 'full-scale' && verdict === 'decide',
  );
}
