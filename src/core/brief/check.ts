import { requirements } from './requirements';
import type { Brief } from './schema';
import type { CheckedFacts, Finding } from './types';

/** Holds a sound or a finished file against every file of a brief. */
export function check(facts: CheckedFacts, brief: Brief): Finding[] {
  return brief.files.flatMap((file) =>
    requirements.flatMap((requirement) => {
      const judged = requirement.judge(facts, file, brief);
      return judged ? [{ fileId: file.id, requirement: requirement.id, ...judged }] : [];
    }),
  );
}

/** The findings about the one file of the brief that these facts come closest to. */
export function checkFinished(
  facts: CheckedFacts,
  brief: Brief,
  fileId?: string,
): { accepted: boolean; findings: Finding[] } {
  const findings = check(facts, brief);
  const candidates = brief.files
    .filter((file) => fileId === undefined || file.id === fileId)
    .map((file) => findings.filter((finding) => finding.fileId === file.id))
    .sort((a, b) => unmet(a).length - unmet(b).length);
  const closest = candidates[0] ?? [];
  return { accepted: unmet(closest).length === 0, findings: closest };
}

function unmet(findings: readonly Finding[]): Finding[] {
  return findings.filter((finding) => finding.verdict !== 'met');
}
