import { isRate } from '../../pcm/rates';
import type { ByteSource } from '../../bytes/source';
import { BijouError } from '../../errors';
import { encodings, sampleKinds, statedBits, type Encoding } from '../pcm/samples';
import { plainPcm } from '../pcm/stream';
import { noSound } from '../problems';
import type { OpenedFile, Warning } from '../types';
import { plural } from '../../words';

/** What a file without a header cannot say of itself. */
export interface RawDescription {
  encoding: Encoding;
  rateHz: number;
  channels: number;
}

/** Reads `s16le,44100,2`. @throws bad-setting that says which part is wrong. */
export function parseRaw(text: string): RawDescription {
  const [encoding = '', rate = '', channels = '1', ...rest] = text.split(',').map((p) => p.trim());
  const description = {
    encoding: encoding as Encoding,
    rateHz: Number(rate),
    channels: Number(channels),
  };
  const whole = (value: number, least: number, most: number) =>
    Number.isInteger(value) && value >= least && value <= most;
  const wrong = !encodings.includes(description.encoding)
    ? `there is no encoding "${encoding}"; choose one of ${encodings.join(', ')}`
    : !isRate(description.rateHz)
      ? `"${rate}" is no sample rate from 1000 to 768000 Hz`
      : !whole(description.channels, 1, 8) || rest.length > 0
        ? `"${[channels, ...rest].join(',')}" is no number of channels from 1 to 8`
        : null;
  if (wrong === null) return description;
  throw new BijouError(
    'bad-setting',
    `The raw sound is not described: ${wrong}.`,
    'Write encoding, rate and channels, such as s16le,44100,2.',
  );
}

/** Plain samples without a header. @throws no-sound */
export function openRaw(source: ByteSource, description: RawDescription): OpenedFile {
  const sample = sampleKinds[description.encoding];
  const { rateHz, channels } = description;
  const frameBytes = sample.bytes * channels;
  const frames = Math.floor(source.size / frameBytes);
  if (frames === 0) throw noSound('raw');
  const over = source.size - frames * frameBytes;
  const sound = { sample, rateHz, channels, startByte: 0, frames };
  const warnings: Warning[] = [];
  if (over > 0) {
    warnings.push({
      code: 'extra',
      message: `The end is less than a frame: ${plural(over, 'byte')}. Is the description right?`,
    });
  }
  return {
    header: {
      container: 'raw',
      codec: sample.codec,
      sampleRateHz: rateHz,
      channels,
      bitDepth: statedBits(sample),
      frames,
    },
    warnings,
    pcm: (startFrame = 0) => plainPcm(source, sound, warnings, startFrame),
  };
}
