import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { namedCandidate } from '@/core/compare/candidates/text';
import { exportedJson, trialsCsv, type ExportedTrial } from '@/core/compare/export';
import { planTrial } from '@/core/compare/plan';
import type { MeasuredTrial } from '@/core/compare/measured';
import {
  decodingCosts,
  measuredFile,
  type MeasuredFile,
  type WorkFigures,
} from '@/core/compare/work';
import type { ListedFacts } from '@/core/measure/probe';
import { emptyRecipe } from '@/core/recipe/types';
import { openFile } from '@/server/files/bytes';
import { workClock } from '@/server/work/threadClock';
import { Batch, type Input } from '../batch/batch';
import type { Tried } from '../batch/tasks';
import { changeOf } from '../inputs';
import { Listing } from '../listing';
import { print, say } from '../output';
import type { FileResult } from '../report';
import { dropTemporary, systemWorkFolder } from '../disk/temporaries';
import { fileError } from '../disk/trouble';
import { askedOf, type Asked, type AskedCandidate, type CompareOptions } from './options';
import { fileLines, unsteadyNote } from './show';

/** Tries every candidate on every file of a call. */
export async function runCompare(
  named: readonly string[],
  options: CompareOptions,
): Promise<number> {
  const asked = askedOf(options);
  const { json, csv } = options;
  const listing = await Listing.of(named);
  // Of one file, too, several candidates are made at a time.
  const manner = { json, isQuiet: csv, hasProgress: true };
  const batch = await Batch.of(listing, undefined, manner, true);
  const run = new CompareRun(batch, asked);
  const status = await batch.run(run);
  if (csv) await print(trialsCsv(run.done).trimEnd());
  const note = unsteadyNote(run.done);
  if (note !== null) say(note);
  return status;
}

/** A candidate that was made and measured, but for what decoding it costs. */
interface Made {
  asked: AskedCandidate;
  settings: object;
  tried: Tried;
  temporary: string;
}

class CompareRun {
  readonly done: { name: string; rows: ExportedTrial[] }[] = [];
  private folder: Promise<string> | null = null;
  private made = 0;
  /** One file after the other: what decoding costs is measured while nothing else goes on. */
  private turn: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly batch: Batch,
    private readonly asked: Asked,
  ) {}

  async look(input: Input): Promise<{ facts: ListedFacts; change: string }> {
    const { place } = input;
    const change = await changeOf(place);
    const task = { kind: 'probe', place, raw: undefined, clicks: false, voice: false } as const;
    const { facts } = await this.batch.do(input, task);
    return { facts, change };
  }

  prepare(_: Input, looked: { facts: ListedFacts; change: string }) {
    return looked;
  }

  work(input: Input, looked: { facts: ListedFacts; change: string }): Promise<FileResult> {
    const mine = this.turn.then(() => this.compare(input, looked.facts, looked.change));
    this.turn = mine.catch(() => undefined);
    return mine;
  }

  private async compare(input: Input, facts: ListedFacts, change: string): Promise<FileResult> {
    const { path } = input.file;
    const made = await Promise.all(
      this.asked.candidates.map((asked) =>
        this.make(input, facts, change, asked).catch((error: unknown) => ({
          asked,
          error: fileError(error),
        })),
      ),
    );
    const work = await this.measureWork(made.filter((one): one is Made => 'tried' in one));
    const { seconds, sampleRateHz, channels, bytes: sourceBytes } = facts;
    const sound = { seconds, sampleRateHz, channels, sourceBytes };
    const rows = made.map((one): ExportedTrial => {
      const { text } = one.asked;
      const candidate = namedCandidate(one.asked.candidate);
      if ('error' in one) return { text, candidate, trial: null, error: one.error };
      const { settings, tried } = one;
      const { figures, encodeMs } = tried;
      const trial: MeasuredTrial = {
        ...{ candidate, settings, sound, figures, encodeMs },
        work: work.get(one) ?? null,
      };
      return { text, candidate, trial, error: null };
    });
    this.done.push({ name: path, rows });
    return {
      line: fileLines(path, sound, rows),
      data: {
        file: path,
        seconds,
        sourceBytes,
        trials: rows.map((row) => exportedJson(row, this.asked.load)),
      },
      failed: rows.some(({ error }) => error !== null),
      seconds,
      bytesBefore: sourceBytes,
    };
  }

  private async make(
    { place }: Input,
    facts: ListedFacts,
    change: string,
    asked: AskedCandidate,
  ): Promise<Made> {
    const sound = { sourceSha256: '', facts, recipe: emptyRecipe };
    const { plan, settings, reference } = planTrial(sound, asked.candidate);
    const { writer, recipe } = plan;
    const temporary = join(await (this.folder ??= systemWorkFolder()), String(this.made++));
    const tried = await this.batch.crew.do({
      kind: 'trial',
      ...{ place, change, reference, temporary },
      loop: facts.loop,
      making: { writer, settings: plan.settings, recipe, raw: undefined, frames: facts.frames },
    });
    return { asked, settings, tried, temporary };
  }

  private async measureWork(all: readonly Made[]): Promise<Map<Made, WorkFigures>> {
    const opened = await Promise.all(all.map(({ temporary }) => openFile(temporary)));
    const breathe = () => this.batch.crew.breathe();
    try {
      const files: MeasuredFile[] = [];
      for (const [i, { source }] of opened.entries()) {
        const { asked, settings, tried } = all[i]!;
        const { writer } = asked.candidate;
        files.push(await measuredFile(source, tried.raw, { writer, settings }));
        await breathe();
      }
      const { now: clock, isOwn: isOwnClock } = workClock;
      const { runs } = this.asked;
      const costs = await decodingCosts(files, { runs, clock, isOwnClock, between: breathe });
      return new Map(all.map((one, i) => [one, costs[i]!]));
    } finally {
      await Promise.all(opened.map((file) => file.close()));
      await Promise.all(all.map(({ temporary }) => rm(temporary, { force: true })));
    }
  }

  async tidy(): Promise<void> {
    if (this.folder) await dropTemporary(await this.folder);
  }
}
