import { MemorySink, memorySource } from '@/core/bytes/source';
import { convert } from '@/core/convert';
import { openSound } from '@/core/formats/open';
import { writerById, writeSound } from '@/core/formats/write';
import { noMarks } from '@/core/marks';
import { collectChannels, pcmFromChannels } from '@/core/pcm/pcm';
import type { KnownCase } from './cases';

/** Decodes a file; null for what it cannot. */
export type Decoder = (
  container: string,
  codec: string,
  bytes: Uint8Array,
  rateHz: number,
) => Promise<Float32Array[] | null>;

/** With Bijou's own readers. */
export const ownDecoder: Decoder = async (_container, _codec, bytes) =>
  collectChannels((await openSound(memorySource(bytes))).pcm());

/** Makes the file of a case, decodes it and says what is wrong; null where nothing is. */
export async function wrongIn(one: KnownCase, decode: Decoder): Promise<string | null> {
  const { sound, rateHz, loop = null, steps, writer, settings } = one;
  const source = new MemorySink();
  await writeSound(pcmFromChannels(sound, rateHz), 'wav', { bits: 32 }, source, {
    ...noMarks,
    loop,
  });
  const sink = new MemorySink();
  const recipe = { version: 1 as const, steps };
  const conversion = { recipe, writer, settings };
  const { expected } = await convert(memorySource(source.bytes()), conversion, sink);
  const { container, codec } = writerById(writer);
  const bytes = sink.bytes();
  const foreign = await decode(container, codec, bytes, expected.rateHz);
  const own = () => ownDecoder(container, codec, bytes, expected.rateHz);
  const whole = foreign && wholeOf(foreign, codec, expected.frames);
  const decoded = whole ?? (await own())!;
  const wrong = one.judge(decoded, whole && decode !== ownDecoder ? ONE_STEP_DB : EXACT_DB);
  return wrong === null ? null : `${one.group}: ${one.what}: ${wrong}`;
}

const EXACT_DB = -150;
/** Chromium takes the largest whole number for full scale: that is one step of 16 bits. */
const ONE_STEP_DB = -89;

/**
 * What a stranger has decoded; null where that stranger is known to leave out the end: Chromium of some Vorbis, the
 * package for IMA ADPCM its last block.
 */
function wholeOf(decoded: Float32Array[], codec: string, frames: number): Float32Array[] | null {
  if (codec === 'ima-adpcm') return null;
  return codec === 'vorbis' && decoded[0]!.length < frames ? null : decoded;
}
