import { basename } from 'node:path';
import { BijouError } from '@/core/errors';
import { parseRaw } from '@/core/formats/raw/reader';
import { writerById } from '@/core/formats/write';
import type { LoopFile } from '@/core/loop/files';
import { cueSheets } from '@/core/loop/handover';
import { usualListening } from '@/core/loop/listening';
import { tailLeftSentence } from '@/core/loop/tailLeft';
import { changeSentence } from '@/core/oneOff/change';
import { ChangeTally } from '@/core/oneOff/tally';
import { loopManner, type Loop } from '@/core/marks';
import { formatTime } from '@/core/time';
import { count } from '@/core/tradeNames';
import { Batch, type Input } from '../batch/batch';
import type { Looked } from '../batch/tasks';
import { Maker, named, NUMBERED, type MadeResult } from '../convert/maker';
import { Names } from '../convert/names';
import { oneOutput, wrong } from '../convert/numbers';
import { tagOptions } from '../convert/settings';
import { STANDARD } from '../inputs';
import { Listing } from '../listing';
import { makeOutFolder } from '../disk/outFolder';
import { harmlessName, say } from '../output';
import { refuseAll, type FileResult } from '../report';
import { listeningWish, type MakeOptions } from './options';
import { loopPlan, type PlannedLoop } from './plan';
import { placeJson, placeText, seamText } from './show';

/** Makes a loop of every file of a call. */
export async function runMake(files: readonly string[], options: MakeOptions): Promise<number> {
  const { json, jsonLines, out, raw } = options;
  oneOutput({ json, 'json-lines': jsonLines });
  if (out === STANDARD) {
    throw wrong('What is made of a loop goes to a folder.', 'Name one with --out.');
  }
  const plan = loopPlan(options);
  tagOptions(options);
  const names = new Names(options);
  const listing = await Listing.of(files, { out, isResult: (place) => names.has(place) });
  const manner = { json, jsonLines, hasProgress: true, makesFiles: true };
  try {
    await makeOutFolder(out);
  } catch (error) {
    if (!(error instanceof BijouError)) throw error;
    return refuseAll(files, manner, error);
  }
  await names.protect(listing);
  const batch = await Batch.of(listing, options.threads, manner);
  const run = new LoopRun(
    batch,
    names,
    plan,
    options,
    raw === undefined ? undefined : parseRaw(raw),
  );
  const status = await batch.run(run);
  if (!json && !jsonLines) for (const line of run.tally.lines()) say(line);
  return status;
}

interface Prepared {
  looked: Looked;
  planned: PlannedLoop;
  outputs: { file: LoopFile; output: string; remarks: string[] }[];
  /** Where the cue sheet goes, for programs and in words; null without one. */
  cueSheet: { json: string; text: string } | null;
}

class LoopRun {
  readonly tally = new ChangeTally();
  private readonly maker: Maker;

  constructor(
    private readonly batch: Batch,
    private readonly names: Names,
    private readonly plan: ReturnType<typeof loopPlan>,
    private readonly options: MakeOptions,
    private readonly raw: ReturnType<typeof parseRaw> | undefined,
  ) {
    this.maker = new Maker(batch, options.overwrite ?? false);
  }

  look(input: Input): Promise<Looked> {
    return this.batch.do(input, { kind: 'look', place: input.place, raw: this.raw });
  }

  async prepare({ file }: Input, looked: Looked): Promise<Prepared> {
    const planned = this.plan(looked);
    const outputs = [];
    for (const one of planned.files) {
      const { mark, writer, shape, changes } = one;
      const { output, isNumbered } = await this.names.next(file, mark, writerById(writer), shape);
      this.tally.add(changes);
      outputs.push({ file: one, output, remarks: isNumbered ? [NUMBERED] : [] });
    }
    return { looked, planned, outputs, cueSheet: await this.cueSheetPlace(file, looked) };
  }

  async work(input: Input, prepared: Prepared): Promise<FileResult> {
    const { looked, planned, outputs, cueSheet } = prepared;
    const { rateHz, frames } = looked.shape;
    const { loop, addedFrames, tail } = planned;
    const asked = { kind: 'seam', place: input.place, raw: this.raw, frames } as const;
    const before = await this.batch.do(input, { ...asked, recipe: planned.before, loop, tail });
    const made: MadeResult[] = [];
    for (const { file, output, remarks } of outputs) {
      const { recipe, writer, changes } = file;
      const settings = named(writer, file.settings, output);
      const making = {
        ...{ writer, settings, recipe, loop: file.loop, raw: this.raw, frames },
        tags: tagOptions(this.options),
        keepTags: !this.options.stripTags,
      };
      made.push(
        await this.maker.make(input, looked, {
          making,
          output,
          changes: changes.map(changeSentence),
          remarks,
        }),
      );
    }
    // What a file holds is measured in it: where it was resampled or encoded, that is another sound.
    const after =
      made.find(({ facts }, i) => outputs[i]!.file.loop && facts.seam)?.facts.seam ?? null;
    const sheets = cueSheet === null ? [] : await this.writeCueSheet(cueSheet, prepared, made);
    const left = before.tailLeftDbfs;
    return {
      line: [
        `${harmlessName(input.file.path)}  ${placeText(loop, rateHz)}`,
        `  before: ${seamText(before.seam)}`,
        ...(after ? [`  made:   ${seamText(after)}`] : []),
        ...(addedFrames > 0
          ? [
              `  the repeat with its tail makes it longer by ${count(addedFrames)} frames (${formatTime(addedFrames / rateHz)})`,
            ]
          : []),
        ...made.map(({ line }) => `  ${line}`),
        ...sheets.map((path) => `  ${harmlessName(path)}`),
      ].join('\n'),
      data: {
        file: input.file.path,
        sampleRateHz: rateHz,
        loop: placeJson(loop),
        seam: { before: before.seam, after },
        addedFrames,
        tailLeftDbfs: left,
        outputs: made.map(({ data }, i) => ({ role: outputs[i]!.file.role, ...data })),
        ...(cueSheet !== null && { cueSheet: sheets[0] }),
      },
      warnings: [
        ...looked.warnings.map(({ message }) => message),
        ...mannerLost(looked.loop),
        ...(left === null ? [] : [tailLeftSentence(left)]),
        ...new Set(made.flatMap(({ warnings }) => warnings)),
      ],
      seconds: frames / rateHz,
      bytesBefore: looked.bytes,
      bytesAfter: made.reduce((sum, { bytes }) => sum + bytes, 0),
    };
  }

  private async cueSheetPlace(file: Input['file'], { shape }: Looked) {
    if (!this.options.handover) return null;
    const place = async (extension: string) => {
      const kind = { extension, format: extension, codec: extension };
      return (await this.names.next(file, ' cue', kind, shape)).output;
    };
    return { json: await place('json'), text: await place('txt') };
  }

  /** Writes what says how the files follow one another. */
  private async writeCueSheet(
    { json, text }: NonNullable<Prepared['cueSheet']>,
    { outputs, planned }: Prepared,
    made: readonly MadeResult[],
  ): Promise<string[]> {
    const wish = listeningWish(this.options.listeningCopy) ?? usualListening;
    const handover = {
      name: basename(json, ' cue.json'),
      tempo: null,
      roles: outputs.map(({ file }) => file.role),
      repeatCarriesTail: planned.addedFrames > 0,
      times: wish.times,
    };
    const files = outputs.map(({ output }, i) => ({
      name: basename(output),
      facts: made[i]!.facts,
    }));
    const sheets = cueSheets(handover, files).map(([, sheet]) => sheet);
    await this.maker.putText(json, sheets[0]!);
    await this.maker.putText(text, sheets[1]!);
    return [json, text];
  }
}

/** A loop that is made runs forward and never ends. */
function mannerLost(loop: Loop | null): string[] {
  // One that runs back and forth is unrolled, or refused.
  const { isBackward, times } = loop ?? {};
  const manner = loopManner({ ...(isBackward && { isBackward }), ...(times && { times }) });
  if (manner.length === 0) return [];
  return [
    `Its file says that the loop plays ${manner.join(', ')}: what is made of it runs forward and never ends.`,
  ];
}
