import prettyBytes from 'pretty-bytes';
import { BijouError } from '@/core/errors';
import { writerById } from '@/core/formats/write';
import { changeSentence } from '@/core/oneOff/change';
import { ChangeTally } from '@/core/oneOff/tally';
import { gainTogether, limiterTook, togetherMissed } from '@/core/oneOff/together';
import type { WholeLevels } from '@/core/measure/levels';
import type { ListedFacts } from '@/core/measure/probe';
import type { NormaliseParams } from '@/core/recipe/steps/normalise';
import { Batch, type Input } from '../batch/batch';
import type { Looked, Making } from '../batch/tasks';
import { STANDARD } from '../inputs';
import { Listing } from '../listing';
import { makeOutFolder } from '../disk/outFolder';
import { harmlessName, say } from '../output';
import { refuseAll, type FileResult } from '../report';
import { Maker, named, NUMBERED, ratioOf, type Wanted } from './maker';
import { Names } from './names';
import { oneOutput, wrong } from './numbers';
import type { ConvertOptions } from './options';
import { planOf, type Plan } from './plan';
import { tagOptions } from './settings';

/** Converts every file of a call. */
export async function runConvert(
  files: readonly string[],
  options: ConvertOptions,
): Promise<number> {
  const { json, jsonLines, dryRun, out } = options;
  oneOutput({ json, 'json-lines': jsonLines });
  const plan = planOf(options);
  tagOptions(options);
  const toErrors = out === STANDARD;
  const names = new Names(options);
  const listing = await Listing.of(files, { out, isResult: (place) => names.has(place) });
  if (toErrors) checkStandard(listing, options);
  const manner = { json, jsonLines, toErrors, hasProgress: true, makesFiles: !toErrors };
  try {
    if (!toErrors && !dryRun) await makeOutFolder(out);
  } catch (error) {
    if (!(error instanceof BijouError)) throw error;
    return refuseAll(files, manner, error);
  }
  await names.protect(listing);
  const together = plan.together ? await gainFor(listing, plan, options) : undefined;
  const batch = await Batch.of(listing, options.threads, manner);
  const run = new ConvertRun(batch, names, plan, options, together);
  const status = await batch.run(run);
  if (!json && !jsonLines) {
    for (const line of run.tally.lines()) say(line);
    if (batch.report.done.files > 1) say(batch.report.summary(batch.crew.threads));
  }
  return status;
}

function checkStandard(listing: Listing, options: ConvertOptions): void {
  const { channels, json, jsonLines, dryRun, name } = options;
  const isOne = listing.isSingle && channels !== 'split';
  if (isOne && !json && !jsonLines && !dryRun && name === undefined) return;
  throw wrong(
    'Standard output takes the bytes of one result and nothing else.',
    'Give one file, without --json, --name, --dry-run and without splitting, or name a folder with --out.',
  );
}

/** What all files of a call are changed by, and what that does not come to. */
interface Together {
  gainDb: number;
  missed: string | null;
  params: NormaliseParams;
  /** How loud the results of each file are before that, by its path. */
  levels: ReadonlyMap<string, WholeLevels[]>;
}

/** The gain for all files together: each is measured behind its other steps first. */
async function gainFor(listing: Listing, plan: Plan, options: ConvertOptions): Promise<Together> {
  const batch = await Batch.of(listing, options.threads, { isQuiet: true });
  const levels = new Map<string, WholeLevels[]>();
  await batch.run({
    look: (input) => batch.do(input, { kind: 'look', place: input.place, raw: plan.raw }),
    prepare: (_, looked) => looked,
    work: async (input, looked) => {
      const { place, file } = input;
      const own: WholeLevels[] = [];
      for (const { recipe, settings } of plan.results(looked.shape, looked, 0)) {
        const making = makingOf(plan, options, looked, { recipe, settings });
        own.push(await batch.do(input, { kind: 'measure', place, making }));
      }
      levels.set(file.path, own);
      return { line: '', data: {} };
    },
  });
  const params = plan.together!;
  const all = [...levels.values()].flat();
  return { gainDb: gainTogether(all, params), missed: togetherMissed(all, params), params, levels };
}

function makingOf(
  { writer, raw }: Plan,
  options: ConvertOptions,
  { shape }: Looked,
  { recipe, settings }: Pick<Making, 'recipe' | 'settings'>,
): Making {
  const { frames } = shape;
  const tags = tagOptions(options);
  return { writer, settings, recipe, tags, keepTags: !options.stripTags, raw, frames };
}

class ConvertRun {
  readonly tally = new ChangeTally();
  private readonly maker: Maker;

  constructor(
    private readonly batch: Batch,
    private readonly names: Names,
    private readonly plan: Plan,
    private readonly options: ConvertOptions,
    private readonly together: Together | undefined,
  ) {
    this.maker = new Maker(batch, options.overwrite ?? false);
  }

  look(input: Input): Promise<Looked> {
    return this.batch.do(input, { kind: 'look', place: input.place, raw: this.plan.raw });
  }

  async prepare({ file }: Input, looked: Looked): Promise<{ looked: Looked; wanted: Wanted[] }> {
    const wanted: Wanted[] = [];
    const kind = writerById(this.plan.writer);
    const results = this.plan.results(looked.shape, looked, this.together?.gainDb);
    for (const [i, planned] of results.entries()) {
      const { mark, shape, changes } = planned;
      const { output, isNumbered } = await this.names.next(file, mark, kind, shape);
      const settings = named(this.plan.writer, planned.settings, output);
      const making = makingOf(this.plan, this.options, looked, { ...planned, settings });
      const { missed = null } = this.together ?? {};
      const remarks = [...(isNumbered ? [NUMBERED] : []), ...(missed === null ? [] : [missed])];
      const remarksOnResult = (facts: ListedFacts) => [
        ...this.takenAway(file.path, i, facts),
        ...this.spareBits(facts),
      ];
      const said = changes.map(changeSentence);
      wanted.push({ making, output, changes: said, remarks, remarksOnResult });
      this.tally.add(changes);
    }
    return { looked, wanted };
  }

  async work(
    input: Input,
    { looked, wanted }: { looked: Looked; wanted: Wanted[] },
  ): Promise<FileResult> {
    const results = [];
    for (const one of wanted) {
      results.push(
        await (this.options.dryRun
          ? this.estimate(input, looked, one)
          : this.maker.make(input, looked, one)),
      );
    }
    const { path } = input.file;
    const outputs = results.map(({ data }) => data);
    return {
      line: results.map(({ line }) => line).join('\n'),
      data: this.plan.isSplit ? { file: path, outputs } : outputs[0]!,
      warnings: results.flatMap(({ warnings }) => warnings),
      seconds: looked.shape.frames / looked.shape.rateHz,
      bytesBefore: looked.bytes,
      bytesAfter: results.reduce((sum, { bytes }) => sum + bytes, 0),
    };
  }

  /** Says what would be written. */
  private async estimate(input: Input, looked: Looked, wanted: Wanted) {
    const { file, place } = input;
    const { making, output, changes, remarks } = wanted;
    const { bytes, isExact } = await this.batch.do(input, { kind: 'estimate', place, making });
    const about = isExact ? `${bytes} bytes` : `about ${prettyBytes(bytes)}`;
    return {
      bytes,
      line: `${harmlessName(file.path)} → ${harmlessName(output)}  ${looked.bytes} → ${about}  ${ratioOf(looked.bytes, bytes)}`,
      data: {
        file: file.path,
        output,
        estimatedBytes: bytes,
        isExact,
        sourceBytes: looked.bytes,
        ratio: bytes / looked.bytes,
        notes: [...changes, ...remarks],
      },
      warnings: remarks,
    };
  }

  /** What the limiter took of a result, where all files were changed by one gain. */
  private takenAway(path: string, result: number, facts: ListedFacts): string[] {
    const before = this.together?.levels.get(path)?.[result];
    if (!this.together || !before || this.options.limit === undefined) return [];
    const { gainDb, params } = this.together;
    const said = limiterTook(before, gainDb, params, facts);
    return said === null ? [] : [said];
  }

  private spareBits(facts: ListedFacts): string[] {
    return this.options.bits === undefined ? spareBits(this.plan.writer, facts) : [];
  }
}

/** A depth that is kept although fewer bits would hold the same. */
function spareBits(writer: string, { bitDepth, usedBits, codec }: ListedFacts): string[] {
  if (codec === 'float' || !usedBits) return [];
  const enough = writerById(writer).legal.depths?.find(({ bits }) => bits >= usedBits);
  if (!enough || bitDepth === null || enough.bits >= bitDepth) return [];
  return [
    `Its samples use ${usedBits} of ${bitDepth} bits: --bits ${enough.bits} would lose nothing.`,
  ];
}
