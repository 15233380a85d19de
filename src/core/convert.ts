import type { ByteSink, ByteSource } from './bytes/source';
import { openSound } from './formats/open';
import type { Warning } from './formats/types';
import { writeSound } from './formats/write';
import { probe, type Facts, type Probed } from './measure/probe';
import { blockFrames, tap } from './pcm/pcm';
import { applyRecipe, shapeAfter } from './recipe/recipe';
import type { Recipe, Shape } from './recipe/types';

/** What is to become of a source. */
export interface Conversion {
  recipe: Recipe;
  writer: string;
  settings: object;
}

export interface Converted {
  /** What the finished file must hold. */
  expected: Shape;
  /** About the source, and about what the conversion had to do. */
  warnings: Warning[];
}

/**
 * Decodes, applies the recipe and encodes in one streaming pass.
 * `frames` is the source's length where it was counted before.
 * `progress` gets the source frames that were read.
 */
export async function convert(
  source: ByteSource,
  conversion: Conversion,
  sink: ByteSink,
  options: { frames?: number; progress?: (framesRead: number) => void } = {},
): Promise<Converted> {
  const reader = await openSound(source);
  const { recipe, writer, settings } = conversion;
  let framesRead = 0;
  const decoded = tap(reader.pcm(), (block) => {
    framesRead += blockFrames(block);
    options.progress?.(framesRead);
  });
  const frames = options.frames ?? reader.header.frames;
  if (frames !== null) {
    // Refuses impossible steps before anything is encoded.
    shapeAfter(recipe, { rateHz: decoded.rateHz, channelCount: decoded.channelCount, frames });
  }
  const shaped = applyRecipe(recipe, decoded);
  const { framesIn, clippedSamples } = await writeSound(shaped, writer, settings, sink);
  const warnings = [...reader.warnings];
  if (clippedSamples > 0) {
    warnings.push({
      code: 'clipped',
      message: `${clippedSamples} samples were louder than full scale and were held there.`,
    });
  }
  return {
    expected: { rateHz: shaped.rateHz, channelCount: shaped.channelCount, frames: framesIn },
    warnings,
  };
}

/** What decoding the finished file again has shown. */
export interface Verification {
  ok: boolean;
  framesExpected: number;
  framesFound: number;
  /** One sentence for each thing that is not as it must be. */
  problems: string[];
  facts: Facts;
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
export async function verify(source: ByteSource, expected: Shape): Promise<Verification> {
  return compare(await probe(source), expected);
}
