import type { ClippingChoice } from './choices';
import { requirements } from './requirements';
import type { Brief } from './schema';
import type { CheckedFacts, Finding } from './types';
import { unmet } from './unmet';

/** Holds a finished file against every file of a brief. */
export function check(facts: CheckedFacts, brief: Brief): Finding[] {
  return judged(
    facts,
    brief,
    requirements.filter(({ isAhead }) => !isAhead),
  );
}

/** Holds a sound that is still to be converted against every file of a brief. */
export function checkAhead(facts: CheckedFacts, brief: Brief): Finding[] {
  return judged(
    facts,
    brief,
    requirements.filter(({ isOfFinished }) => !isOfFinished),
  );
}

function judged(facts: CheckedFacts, brief: Brief, asked: typeof requirements): Finding[] {
  return brief.files.flatMap((file) =>
    asked.flatMap((requirement) => {
      const found = requirement.judge(facts, file, brief);
      return found ? [{ fileId: file.id, requirement: requirement.id, ...found }] : [];
    }),
  );
}

/** What a brief says of a finished file. */
export interface Judged {
  accepted: boolean;
  findings: Finding[];
}

/**
 * The findings about the one file of the brief that these facts come closest to. Who chose to let it clip is
 * content with that.
 */
export function checkFinished(
  facts: CheckedFacts,
  brief: Brief,
  fileId?: string,
  clipping?: ClippingChoice,
): Judged {
  const findings = check(facts, brief).map((finding) => {
    const isSettled = clipping === 'keep' && finding.requirement === 'full-scale';
    return isSettled ? { ...finding, verdict: 'met' as const } : finding;
  });
  const candidates = brief.files
    .filter((file) => fileId === undefined || file.id === fileId)
    .map((file) => findings.filter((finding) => finding.fileId === file.id))
    .sort((a, b) => unmet(a).length - unmet(b).length);
  const closest = candidates[0] ?? [];
  return { accepted: unmet(closest).length === 0, findings: closest };
}
