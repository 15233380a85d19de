import type { ByteSink } from '../bytes/source';
import { BijouError } from '../errors';
import { rechunk, type PcmStream } from '../pcm/pcm';
import { writers } from './index';
import type { WriteResult, WriterKind } from './types';

/** Frames given to every encoder at a time; their output buffers grow with more. */
const WRITER_FRAMES = 16_384;

/** @throws bad-setting for a writer that does not exist. */
export function writerById(id: string): WriterKind {
  const writer = writers.find((kind) => kind.id === id);
  if (writer) return writer;
  throw new BijouError(
    'bad-setting',
    `There is no format "${id}".`,
    `Choose one of ${writers.map((kind) => kind.id).join(', ')}.`,
  );
}

/**
 * Refuses before anything runs what the format may not hold, and names the nearest legal choices.
 * @throws not-legal
 */
function checkLegal(writer: WriterKind, rateHz: number, channels: number, settings: object): void {
  const { rates, channels: layouts } = writer.legal;
  if (rates && !rates.includes(rateHz)) {
    const near = [...rates].sort((a, b) => Math.abs(a - rateHz) - Math.abs(b - rateHz)).slice(0, 2);
    throw new BijouError(
      'not-legal',
      `${writer.name} cannot hold ${rateHz} Hz.`,
      `Choose ${near.sort((a, b) => a - b).join(' or ')} Hz.`,
    );
  }
  if (!layouts.includes(channels)) {
    throw new BijouError(
      'not-legal',
      `${writer.name} cannot hold ${channels} channels here.`,
      'Turn the sound into mono or stereo first.',
    );
  }
  const refusal = writer.refuses?.(settings as Record<string, unknown>, rateHz, channels);
  if (refusal) throw new BijouError('not-legal', refusal, 'Choose another setting.');
}

/** Checks `settings` against the writer's schema, fills in defaults, and checks legality.
 * @throws bad-setting, not-legal */
export function checkedSettings(
  writer: WriterKind,
  settings: object,
  rateHz: number,
  channels: number,
): Record<string, unknown> {
  let checked: Record<string, unknown>;
  try {
    checked = writer.settings
      .noUnknown()
      .validateSync(settings, { strict: true, abortEarly: true });
    checked = writer.settings.cast(checked) as Record<string, unknown>;
  } catch (error) {
    const message = error instanceof Error ? error.message : String(error);
    throw new BijouError('bad-setting', `${writer.name}: ${message}`, 'Change that setting.');
  }
  checkLegal(writer, rateHz, channels, checked);
  return checked;
}

/** Encodes a stream. */
export async function writeSound(
  pcm: PcmStream,
  writerId: string,
  settings: object,
  sink: ByteSink,
): Promise<WriteResult> {
  const writer = writerById(writerId);
  const checked = checkedSettings(writer, settings, pcm.rateHz, pcm.channelCount);
  return writer.write(rechunk(pcm, WRITER_FRAMES), sink, checked);
}
