import { resolve } from 'node:path';
import { BijouError } from '@/core/errors';
import { openForReading, type ReadOnlyBijou } from '@/server/readOnly';
import { Crew, threadCount } from '../batch/crew';
import { makeOutFolder } from '../disk/outFolder';
import { clearDead } from '../disk/temporaries';
import { stoppable } from '../ending';
import { printOn, say } from '../output';
import { isTerminal } from '../progress';
import { STATUS } from '../status';
import { Builder } from './builder';
import type { BuildOptions } from './options';
import { entriesOf } from './plan';
import { BuildRecord, existingWays, type Existing } from './record';
import { bytesByBrief, isTooMuch, resultJson, resultLine, totalsOf, totalsLine } from './results';

/** Builds what a project sends to its destinations into a folder. Answers the exit status. */
export async function runBuild(options: BuildOptions): Promise<number> {
  const threads = threadCount(options.threads);
  const existing = existingWay(options.existing);
  const bijou = openForReading(resolve(process.env['BIJOU_DATA'] ?? 'data'));
  try {
    return await built(bijou, options, threads, existing);
  } finally {
    bijou.close();
  }
}

async function built(
  bijou: ReadOnlyBijou,
  options: BuildOptions,
  threads: number,
  existing: Existing | undefined,
): Promise<number> {
  const { out, json = false, dryRun = false } = options;
  const project = bijou.project(options.project);
  const entries = await entriesOf(bijou, project.id, options);
  if (entries.length === 0) sayNothing(options);
  if (!dryRun) {
    await makeOutFolder(out);
    await clearDead(out);
  }
  const record = await BuildRecord.of(out);
  if (existing) record.choose(existing);
  const crew = new Crew(threads);
  const builder = new Builder(bijou, crew, record, out, dryRun);
  const isShown = isTerminal() && !json;
  const tell = () =>
    say('Stopped: what was finished is whole and stays, nothing half-finished was kept.');
  const how = { stop: () => builder.stop(), isFragile: () => crew.isFragile, tell };
  try {
    return await stoppable(how, async () => {
      const results = await builder.build(entries, { isShown });
      const totals = totalsOf(results);
      if (json) {
        await printOn(JSON.stringify({ outputs: results.map(resultJson), totals }, null, 2));
      } else {
        for (const result of results) {
          if (result.state !== 'unchanged') await printOn(resultLine(result));
        }
        await printOn(totalsLine(totals, dryRun));
      }
      for (const line of builder.remarks(results)) say(line);
      const isFull = [...bytesByBrief(results)].some(isTooMuch);
      return totals.failed > 0 || isFull || builder.recordTrouble ? STATUS.someFailed : STATUS.done;
    });
  } finally {
    await crew.close();
  }
}

function sayNothing({ brief, only }: BuildOptions): void {
  const isNarrow = Boolean(brief ?? only);
  say(
    isNarrow
      ? 'No sound of the project is meant by that.'
      : 'No sound of the project goes to a destination yet.',
  );
}

function existingWay(typed: string | undefined): Existing | undefined {
  if (typed === undefined) return undefined;
  const way = existingWays.find((one) => one === typed);
  if (way) return way;
  throw new BijouError(
    'wrong-call',
    `--existing cannot be "${typed}".`,
    `Choose ${existingWays.slice(0, -1).join(', ')} or ${existingWays.at(-1)}.`,
  );
}
