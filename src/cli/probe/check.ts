import { briefById } from '@/core/brief/catalogue';
import { builtinBriefs } from '@/core/brief/builtin';
import { checkFinished } from '@/core/brief/check';
import { Batch } from '../batch/batch';
import { Listing } from '../listing';
import { factsJson } from '../report';
import type { CheckOptions } from './options';

/** Holds finished files against a brief. */
export async function runCheck(files: readonly string[], options: CheckOptions): Promise<number> {
  const brief = briefById(builtinBriefs, options.brief);
  const batch = await Batch.of(await Listing.of(files), undefined, { json: options.json });
  return batch.run({
    look: async () => undefined,
    prepare: () => undefined,
    work: async (input) => {
      const { file, place } = input;
      const { path } = file;
      const { facts, warnings } = await batch.do(input, {
        kind: 'probe',
        place,
        raw: undefined,
        clicks: false,
      });
      const { accepted, findings } = checkFinished(facts, brief);
      const reasons = findings
        .filter((finding) => finding.verdict !== 'met')
        .map(({ requirement, found, wanted }) => `${requirement}: ${found}, wanted ${wanted}`);
      return {
        line: accepted
          ? `${path}  accepted by "${brief.title}"`
          : `${path}  not accepted by "${brief.title}": ${reasons.join('; ')}`,
        data: { ...factsJson(path, facts), brief: brief.id, accepted, findings },
        warnings: warnings.map((warning) => warning.message),
        failed: !accepted,
      };
    },
  });
}
