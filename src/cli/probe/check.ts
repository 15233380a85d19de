import { basename } from 'node:path';
import { builtinBriefs } from '@/core/brief/builtin';
import { checkFinished } from '@/core/brief/check';
import { unmet } from '@/core/brief/unmet';
import type { Brief } from '@/core/brief/schema';
import type { CheckedFacts, Finding } from '@/core/brief/types';
import { labelDoubt } from '@/core/measure/labelDoubt';
import type { ListedFacts } from '@/core/measure/probe';
import { Batch } from '../batch/batch';
import { briefNamed } from '../build/named';
import { Listing } from '../listing';
import { harmlessName } from '../output';
import { factsJson, type FileResult } from '../report';
import type { CheckOptions } from './options';

/** Holds finished files against a brief, or against all of them. */
export async function runCheck(files: readonly string[], options: CheckOptions): Promise<number> {
  const brief = options.brief === undefined ? null : await briefNamed(options.brief);
  const batch = await Batch.of(await Listing.of(files), undefined, { json: options.json });
  return batch.run({
    look: async () => undefined,
    prepare: () => undefined,
    work: async (input) => {
      const { file, place } = input;
      const { path } = file;
      const { facts, warnings, pace } = await batch.do(input, {
        kind: 'probe',
        place,
        raw: undefined,
        clicks: false,
        voice: true,
      });
      const checked = finishedFile(facts, path);
      const rateDoubt = labelDoubt(facts, pace);
      const { data, ...judged } = brief
        ? heldAgainst(brief, path, facts, checked)
        : heldAgainstAll(path, facts, checked);
      return {
        ...judged,
        data: { ...data, rateDoubt },
        warnings: [
          ...warnings.map(({ message }) => message),
          ...(rateDoubt ? [rateDoubt.sentence] : []),
        ],
      };
    },
  });
}

/** What briefs look at of a file from elsewhere. */
function finishedFile(facts: ListedFacts, path: string): CheckedFacts {
  return { ...facts, fileName: basename(path), seamScore: facts.seam?.score ?? null };
}

function heldAgainst(
  brief: Brief,
  path: string,
  facts: ListedFacts,
  checked: CheckedFacts,
): FileResult {
  const { accepted, findings } = checkFinished(checked, brief);
  const reasons = unmet(findings).map(reason);
  return {
    line: accepted
      ? `${harmlessName(path)}  accepted by "${brief.title}"`
      : `${harmlessName(path)}  not accepted by "${brief.title}": ${reasons.join('; ')}`,
    data: {
      ...factsJson(path, facts),
      brief: brief.id,
      accepted,
      findings: findings.map(findingJson),
    },
    failed: !accepted,
  };
}

function heldAgainstAll(path: string, facts: ListedFacts, checked: CheckedFacts): FileResult {
  const judged = builtinBriefs.map((brief) => ({ brief, ...checkFinished(checked, brief) }));
  const taking = judged.filter(({ accepted }) => accepted).map(({ brief }) => brief.id);
  const others = judged
    .filter(({ accepted }) => !accepted)
    .map(({ brief, findings }) => `  ${brief.id}: ${unmet(findings).map(reason).join('; ')}`);
  return {
    line: [`${harmlessName(path)}  accepted by ${taking.join(', ') || 'none'}`, ...others].join(
      '\n',
    ),
    data: {
      ...factsJson(path, facts),
      briefs: judged.map(({ brief, accepted, findings }) => ({
        brief: brief.id,
        accepted,
        findings: findings.map(findingJson),
      })),
    },
    failed: taking.length === 0,
  };
}

/** With the words that `build` uses beside its own older ones. */
function findingJson(finding: Finding) {
  return { ...finding, demand: finding.requirement, asked: finding.wanted };
}

function reason({ requirement, found, wanted }: Finding): string {
  return `${requirement}: ${found}, wanted ${wanted}`;
}
