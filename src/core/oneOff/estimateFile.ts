import type { ByteSource } from '../bytes/source';
import { marksFor, type Conversion, type ConvertOptions } from '../convert';
import { isPlainWav, openSound, sourceOf } from '../formats/open';
import { probe } from '../measure/probe';
import { applyRecipe } from '../recipe/recipe';
import { estimateBytes, type Estimate } from './estimate';

/** What a conversion of a file will come to, without making it. */
export async function estimateFile(
  source: ByteSource,
  conversion: Conversion,
  options: Pick<ConvertOptions, 'frames' | 'raw'> = {},
): Promise<Estimate> {
  const reader = await openSound(source, options.raw);
  const { header } = reader;
  const frames = options.frames ?? header.frames ?? (await probe(source, options)).facts.frames;
  const { sampleRateHz: rateHz, channels: channelCount, speakerMask } = header;
  const before = { rateHz, channelCount, frames, speakerMask };
  const { recipe, writer, settings } = conversion;
  const shaped = await applyRecipe(recipe, sourceOf(reader, frames));
  const marks = marksFor(conversion, before, header).at(-1)!;
  return estimateBytes(shaped, writer, settings, { marks, isEntered: isPlainWav(header) });
}
