import type { Brief } from '@/core/brief/schema';
import type { CheckedFacts } from '@/core/brief/types';
import { overDbOf, type Verification } from '@/core/convert';
import { hostById } from '@/core/host';
import type { ListedFacts } from '@/core/measure/probe';
import type { RehearsedSound } from '../db/rehearsals';

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
  done: readonly string[],
): string | null {
  if (!told || host === undefined || done.length < files.length) return null;
  const isSame = told.host === rehearsedBy(host) && told.files === filesKey(done);
  return isSame ? (told.refusal ?? '') : null;
}

/** A host with its version: what an older one said counts no more. */
export function rehearsedBy(hostId: string, version = hostById(hostId).version): string {
  return `${hostId} ${version}`;
}

/** The hashes of a sound’s files, whatever their order. */
export function filesKey(hashes: readonly string[]): string {
  return [...hashes].sort().join(' ');
}
