import type { Judged } from '@/core/brief/check';
import type { Need } from '@/core/brief/needs';
import type { Brief } from '@/core/brief/schema';
import { hostById } from '@/core/host';
import type { CheckedFacts, Finding } from '@/core/brief/types';
import { unmet } from '@/core/brief/unmet';
import { overDbOf, type Verification } from '@/core/convert';
import type { ListedFacts } from '@/core/measure/probe';
import type { CellState } from '@/wire';
import type { Encoding } from '../db/encodings';
import type { RehearsedSound } from '../db/rehearsals';

/** In which state a cell is, from what it needs and what has come of it. */
export function stateOf(
  need: Need,
  made: readonly { upToDate: boolean; encoding: Encoding; verdict: Judged | null }[],
  missing: number,
): CellState {
  const current = made.filter(({ upToDate }) => upToDate);
  const has = (...states: Encoding['state'][]) =>
    current.some(({ encoding }) => states.includes(encoding.state));
  if (has('queued', 'running')) return 'working';
  if (need.obstacle) return isDecidable(need) ? 'decide' : 'cannot';
  const unmetBuilt = current.flatMap(({ verdict }) => (verdict ? unmet(verdict.findings) : []));
  if (unmetBuilt.some(({ verdict }) => verdict === 'decide')) return 'decide';
  if (missing === 0) return 'built';
  if (has('failed') || unmetBuilt.length > 0) return 'failed';
  if (made.some(({ encoding }) => encoding.state === 'done')) return 'outdated';
  return need.files.every(({ plan }) => plan.isCopy) ? 'fits' : 'convert';
}

/** Whether a choice would make it possible: all that stands against it waits for one. */
function isDecidable({ findings }: Need): boolean {
  const open = findings.filter(({ verdict }) => verdict === 'decide' || verdict === 'cannot');
  return open.length > 0 && open.every(({ verdict }) => verdict === 'decide');
}

/** What briefs look at of a finished file: what was measured on it, and what it is known to be. */
export function finishedFacts(
  verification: Pick<Verification, 'loudestDbfs' | 'loop'> & { facts: ListedFacts },
): CheckedFacts {
  const { facts } = verification;
  return {
    ...facts,
    overDb: overDbOf(verification),
    isLoopInFile: facts.loop !== null,
    loop: facts.loop ?? verification.loop ?? null,
    seamScore: facts.seam?.score ?? null,
  };
}

/** What the host of a brief said of these very files; null where it has said nothing of them. */
export function rehearsedAs(
  told: RehearsedSound | undefined,
  { host, files }: Brief,
  done: readonly { encoding: Encoding }[],
): string | null {
  if (!told || host === undefined || done.length < files.length) return null;
  const hashes = done.flatMap(({ encoding }) => encoding.sha256 ?? []);
  const isSame = told.host === rehearsedBy(host) && told.files === filesKey(hashes);
  return isSame ? (told.refusal ?? '') : null;
}

/** Whether somebody has to decide about what lies above full scale. */
export function isClipping(findings: readonly Finding[]): boolean {
  return findings.some(
    ({ requirement, verdict }) => requirement === 'full-scale' && verdict === 'decide',
  );
}

/** A host with its version: what an older one said counts no more. */
export function rehearsedBy(hostId: string, version = hostById(hostId).version): string {
  return `${hostId} ${version}`;
}

/** The hashes of a sound’s files, whatever their order. */
export function filesKey(hashes: readonly string[]): string {
  return [...hashes].sort().join(' ');
}
