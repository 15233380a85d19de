import * as yup from 'yup';
import type { ByteSink } from '../../bytes/source';
import { blockFrames, type PcmStream } from '../../pcm/pcm';
import { encodeText } from '../bits';
import { SampleWriter } from '../pcm/quantise';
import { noSound } from '../problems';
import { anyRate } from '../rates';
import type { WriterKind, WriteResult } from '../types';

const encodings = ['u8', 's8', 's16le'] as const;
export type RawEncoding = (typeof encodings)[number];

export interface RawSettings {
  encoding: RawEncoding;
}

export interface ArraySettings extends RawSettings {
  /** Name of the array in the header. */
  name: string;
}

const encoding = yup
  .mixed<RawEncoding>()
  .oneOf([...encodings])
  .default('s16le')
  .required();
const common = {
  codec: 'pcm',
  legal: {
    rates: anyRate,
    channels: [1, 2],
    depths: [
      { bits: 8, settings: { encoding: 'u8' } },
      { bits: 16, settings: { encoding: 's16le' } },
    ],
  },
  carries: { tags: false, loop: false, markers: false, speakers: false },
  range: encodings.join(', '),
  dials: [],
  describe: ({ encoding }: RawSettings) => encodingNames[encoding],
};
const encodingNames: Record<RawEncoding, string> = {
  u8: '8-bit unsigned',
  s8: '8-bit signed',
  s16le: '16-bit signed, low byte first',
};

/** Samples and nothing else: who reads them must know rate, channels and encoding. */
export const rawWriter: WriterKind<RawSettings> = {
  ...common,
  id: 'raw',
  name: 'raw PCM',
  format: 'raw',
  container: 'raw',
  extension: 'raw',
  mimeType: 'application/octet-stream',
  version: 'bijou-raw-2',
  settings: yup.object({ encoding }),
  soundBytes: (frames, { encoding }, _, channels) =>
    frames * channels * (encoding === 's16le' ? 2 : 1),
  write: (pcm, sink, settings) => writeSamples(pcm, settings, (bytes) => sink.write(bytes)),
};

async function writeSamples(
  pcm: PcmStream,
  settings: RawSettings,
  put: (bytes: Uint8Array) => Promise<void>,
): Promise<WriteResult> {
  const samples = new SampleWriter(settings.encoding, pcm);
  let framesIn = 0;
  for await (const block of pcm.blocks) {
    framesIn += blockFrames(block);
    await put(samples.bytes(block));
  }
  if (framesIn === 0) throw noSound('raw');
  return { framesIn, clippedSamples: samples.clippedSamples };
}

/** The same samples as an array in C, for devices whose sounds are compiled in. */
export const arrayWriter: WriterKind<ArraySettings> = {
  ...common,
  id: 'c',
  name: 'C array',
  format: 'c',
  container: 'c',
  extension: 'h',
  mimeType: 'text/x-c',
  version: 'bijou-c-2',
  // So many letters a number.
  usualBytes({ encoding }, rateHz, channels) {
    const numbers = rateHz * channels;
    return encoding === 's16le' ? [numbers * 3, numbers * 8] : [numbers * 3, numbers * 5];
  },
  settings: yup.object({
    encoding,
    name: yup
      .string()
      .matches(
        /^[A-Za-z_][A-Za-z0-9_]{0,62}$/,
        'the name of the array must be one of the C language',
      )
      .default('sound')
      .required(),
  }),
  write: writeArray,
};

const types: Record<RawEncoding, string> = { u8: 'uint8_t', s8: 'int8_t', s16le: 'int16_t' };
const VALUES_PER_LINE = 16;

async function writeArray(
  pcm: PcmStream,
  sink: ByteSink,
  settings: ArraySettings,
): Promise<WriteResult> {
  const { name, encoding } = settings;
  const guard = `${name.toUpperCase()}_H`;
  const lines = (...texts: string[]) => sink.write(encodeText(texts.join('\n') + '\n'));
  // The length is known only at the end, so it stands there.
  await lines(
    `#ifndef ${guard}`,
    `#define ${guard}`,
    '',
    '#include <stdint.h>',
    '',
    `#define ${name}_rate_hz ${pcm.rateHz}`,
    `#define ${name}_channels ${pcm.channelCount}`,
    '',
    `static const ${types[encoding]} ${name}[] = {`,
  );
  const column = { at: 0 };
  const result = await writeSamples(pcm, settings, async (bytes) =>
    sink.write(encodeText(numbers(bytes, encoding, column))),
  );
  await lines(
    ...(column.at > 0 ? [''] : []),
    '};',
    '',
    `#define ${name}_frames ${result.framesIn}`,
    '',
    '#endif',
  );
  return result;
}

function numbers(bytes: Uint8Array, encoding: RawEncoding, column: { at: number }): string {
  const values =
    encoding === 'u8'
      ? bytes
      : encoding === 's8'
        ? new Int8Array(bytes.buffer)
        : new Int16Array(bytes.buffer);
  let text = '';
  for (const value of values) {
    text += `${column.at === 0 ? '  ' : ' '}${value},`;
    column.at = (column.at + 1) % VALUES_PER_LINE;
    if (column.at === 0) text += '\n';
  }
  return text;
}
