import { memoryScratch, type ByteSink, type ByteSource, type Scratch } from './bytes/source';
import { aroundLoop } from './formats/around';
import { isPlainWav, loopInside, openSound, sourceOf } from './formats/open';
import type { Encoding } from './formats/pcm/samples';
import type { RawDescription } from './formats/raw/reader';
import type { Warning } from './formats/types';
import {
  checkedSettings,
  filledSettings,
  lostMarks,
  writerById,
  writeSound,
} from './formats/write';
import { tidyTags, type Loop, type Marks, type SoundMarks, type Tags } from './marks';
import { probe, type Facts, type Probed, type ProbeOptions } from './measure/probe';
import { LevelMeter } from './measure/level';
import { blockFrames, tap, type Block, type PcmStream } from './pcm/pcm';
import { putAside, streamOf, type PcmSource } from './pcm/source';
import { active, applyRecipe, marksAlong, rereads, shapeAfter } from './recipe/recipe';
import type { Recipe, Shape, StepTools } from './recipe/types';
import { plainNumber } from './tradeNames';
import { plural } from './words';

/** What is to become of a source. */
export interface Conversion {
  recipe: Recipe;
  writer: string;
  settings: object;
  /** Tags that replace the source's, an empty one clears it; `keepTags` false drops those of the source. */
  tags?: Tags | undefined;
  keepTags?: boolean | undefined;
}

export interface ConvertOptions {
  /** The source's length where it was counted before. */
  frames?: number | undefined;
  /** Describes a source without a header. */
  raw?: RawDescription | undefined;
  /** Gets the source frames that were read; a recipe that measures first reads them more than once. */
  progress?: ((framesRead: number) => void) | undefined;
  /** A place to put samples aside. */
  scratch?: (() => Promise<Scratch>) | undefined;
  /** Milliseconds; with it the encoder's work is measured. */
  clock?: (() => number) | undefined;
  /** Knows what steps have measured on this source. */
  figure?: StepTools['figure'];
}

export interface Converted {
  /** What the finished file must hold. */
  expected: Shape;
  /** Where it repeats, whether the format has a place for that or not. */
  loop: Loop | null;
  /** The loudest sample that was to be written, in dBFS; null for silence. */
  loudestDbfs: number | null;
  /** About the source, and about what the conversion had to do. */
  warnings: Warning[];
  /** What encoding took, without reading and shaping; null without a clock. */
  encodeMs: number | null;
}

/** Decodes, applies the recipe and encodes, streaming, with the source's tags, loop and markers. */
export async function convert(
  source: ByteSource,
  conversion: Conversion,
  sink: ByteSink,
  options: ConvertOptions = {},
): Promise<Converted> {
  const reader = await openSound(source, options.raw);
  const { recipe, writer, settings } = conversion;
  const { header } = reader;
  const frames = options.frames ?? header.frames ?? (await probe(source, options)).facts.frames;
  const { sampleRateHz: rateHz, channels: channelCount, speakerMask } = header;
  const before = { rateHz, channelCount, frames, speakerMask };
  // Refuses impossible steps before anything is encoded.
  const after = shapeAfter(recipe, before);
  checkedSettings(writerById(writer), settings, after.rateHz, after.channelCount);
  const notes: Warning[] = [];
  const inside = loopInside(header.loop, frames, notes);
  const along = marksFor(conversion, before, { ...header, loop: inside });
  const whole = sourceOf(reader, frames);
  const decoded: PcmSource = {
    ...whole,
    async *from(startFrame) {
      let framesRead = startFrame;
      for await (const block of whole.from(startFrame)) {
        framesRead += blockFrames(block);
        options.progress?.(framesRead);
        yield block;
      }
    },
  };
  const { reach } = writerById(writer);
  const needsScratch = rereads(recipe, along) || (reach !== undefined && along.at(-1)!.loop);
  // What has to be decoded in order is not decoded anew for every place that a step goes into.
  const scratch =
    needsScratch && !isPlainWav(header) ? await (options.scratch ?? memoryScratch)() : null;
  try {
    const source = scratch ? await putAside(decoded, scratch) : decoded;
    const { figure } = options;
    const shaped = await applyRecipe(recipe, source, {
      note: (warning) => notes.push(warning),
      ...(figure && { figure }),
    });
    const marks = along.at(-1)!;
    const loudest = new LevelMeter(shaped.channelCount);
    const around = await aroundLoop(shaped, marks.loop, reach);
    const looked = tap({ ...streamOf(shaped), around }, (block) => loudest.push(block));
    const { pcm, workMs } = timed(looked, options.clock);
    const { framesIn, clippedSamples } = await writeSound(pcm, writer, settings, sink, marks);
    const encodeMs = workMs();
    if (isLoopCut(recipe, along)) notes.push(loopCut());
    const lost = lostMarks(writerById(writer), marks, shaped);
    const warnings = [...unique(reader.warnings), ...notes, ...(lost ? [lost] : [])];
    const loudestDbfs = loudest.result().peakDbfs;
    const clipped = clipping(clippedSamples, loudestDbfs, holdsBeyond(writer, settings));
    if (clipped) warnings.push({ code: 'clipped', message: clipped });
    return {
      loop: marks.loop,
      encodeMs,
      loudestDbfs,
      expected: { rateHz: shaped.rateHz, channelCount: shaped.channelCount, frames: framesIn },
      warnings,
    };
  } finally {
    await scratch?.free();
  }
}

/** A stream whose taker's work is measured: what the stream itself takes is left out. */
function timed(pcm: PcmStream, clock: (() => number) | undefined) {
  if (!clock) return { pcm, workMs: () => null };
  const begun = clock();
  let inside = 0;
  async function* blocks(now: () => number): AsyncGenerator<Block> {
    let asked = now();
    for await (const block of pcm.blocks) {
      inside += now() - asked;
      yield block;
      asked = now();
    }
    inside += now() - asked;
  }
  return { pcm: { ...pcm, blocks: blocks(clock) }, workMs: () => clock() - begun - inside };
}

function holdsBeyond(writer: string, settings: object): boolean {
  const kind = writerById(writer);
  return kind.holdsBeyond?.(filledSettings(kind, settings)) ?? false;
}

/** Says what is cut off at full scale, by the writer or, where a codec holds it, by players; null for nothing. */
function clipping(samples: number, loudestDbfs: number | null, isHeld: boolean): string | null {
  const most = `the loudest lies ${plainNumber(loudestDbfs ?? 0, 2)} dB above it`;
  if (samples > 0) {
    return `Louder than full scale, and held there: ${plural(samples, 'sample')}; ${most}.`;
  }
  if ((loudestDbfs ?? 0) < 0.01 || isHeld) return null;
  return `There are samples above full scale, which players cut off: ${most}.`;
}

/** Whether a loop has lost an end on its way that somebody may miss. */
function isLoopCut(recipe: Recipe, along: readonly SoundMarks[]): boolean {
  if (along.at(-1)!.loop) return false;
  return active(recipe).some(
    ({ params }, i) => along[i]!.loop && !along[i + 1]!.loop && !params['withoutLoop'],
  );
}

function loopCut(): Warning {
  return {
    code: 'not-kept',
    message: 'The loop is gone: the steps cut away one of its ends.',
  };
}

/** Tags as asked for, loop and markers as the recipe moves and sets them, step by step. */
export function marksFor(conversion: Conversion, before: Shape, header: Marks): SoundMarks[] {
  const { tags, loop, markers } = header;
  const kept = conversion.keepTags === false ? {} : tags;
  const wanted = { tags: tidyTags({ ...kept, ...conversion.tags }), loop, markers };
  return marksAlong(conversion.recipe, before, wanted);
}

/** A source that is read more than once says the same more than once. */
function unique(warnings: readonly Warning[]): Warning[] {
  return warnings.filter(
    (warning, i) => warnings.findIndex((other) => other.message === warning.message) === i,
  );
}

/** What decoding the finished file again has shown. */
export interface Verification {
  ok: boolean;
  framesExpected: number;
  framesFound: number;
  /** One sentence for each thing that is not as it must be. */
  problems: string[];
  facts: Facts;
  /** As in `Converted`; not known of files that were only handed on. */
  loudestDbfs?: number | null;
  loop?: Loop | null;
  encodeMs?: number | null;
}

/**
 * How far a finished file lies above full scale, in dB: as it is decoded. Whole numbers hold nothing there: what was to
 * be written says what was cut off.
 */
export function overDbOf({
  loudestDbfs,
  facts,
}: Pick<Verification, 'loudestDbfs'> & {
  facts: Pick<Facts, 'peakDbfs' | 'bitDepth'>;
}): number | undefined {
  if (loudestDbfs === undefined) return undefined;
  const decoded = facts.peakDbfs ?? -Infinity;
  return facts.bitDepth === null ? decoded : Math.max(loudestDbfs ?? -Infinity, decoded);
}

/** Compares what was measured on a finished file with what it must hold. */
export function compare({ facts, warnings }: Probed, expected: Shape): Verification {
  const problems = warnings.map((warning) => warning.message);
  const equal = (what: string, found: number, wanted: number) => {
    if (found !== wanted) problems.push(`Its ${what} is ${found}; ${wanted} was expected.`);
  };
  equal('sample rate', facts.sampleRateHz, expected.rateHz);
  equal('number of channels', facts.channels, expected.channelCount);
  equal('length in frames', facts.frames, expected.frames);
  return {
    ok: problems.length === 0,
    framesExpected: expected.frames,
    framesFound: facts.frames,
    problems,
    facts,
  };
}

/** Decodes a finished file from its bytes and compares it with what it must hold. */
export async function verify(
  source: ByteSource,
  expected: Shape,
  options: Pick<ProbeOptions, 'raw' | 'loop'> = {},
): Promise<Verification> {
  return compare(await probe(source, options), expected);
}

/** How a file must be read that cannot say itself what it is: only raw samples cannot. */
export function rawDescription(
  writer: string,
  settings: object,
  { rateHz, channelCount }: Shape,
): RawDescription | undefined {
  if (writerById(writer).container !== 'raw') return undefined;
  const { encoding } = checkedSettings(writerById(writer), settings, rateHz, channelCount);
  return { encoding: encoding as Encoding, rateHz, channels: channelCount };
}
