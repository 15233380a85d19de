import type { ByteSink } from '../bytes/source';
import { BijouError } from '../errors';
import { noMarks, type Marks, type SoundMarks } from '../marks';
import { rechunk, type PcmStream } from '../pcm/pcm';
import { isUnusualMask, speakersOf } from '../pcm/speakers';
import type { Shape } from '../recipe/types';
import { writers } from './index';
import { legalityRefusal } from './legality';
import type { Warning, WriteResult, WriterKind } from './types';
import { plural } from '../words';

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

/** The writer of a format, with its usual codec or the one that is named. @throws bad-setting */
export function writerFor(format: string, codec?: string): WriterKind {
  const kinds = writers.filter((kind) => kind.format === format);
  const formats = [...new Set(writers.map((kind) => kind.format))];
  if (kinds.length === 0) {
    throw new BijouError(
      'bad-setting',
      `There is no format "${format}".`,
      `Choose one of ${formats.join(', ')}.`,
    );
  }
  const found = codec === undefined ? kinds[0] : kinds.find((kind) => kind.codec === codec);
  if (found) return found;
  throw new BijouError(
    'bad-setting',
    `The format ${format} cannot hold the codec "${codec}".`,
    `Choose ${kinds.map((kind) => kind.codec).join(' or ')}.`,
  );
}

/** The same settings are filled for thousands of files: checking them takes longer than all else about a plan. */
const known = new Map<string, Record<string, unknown>>();
const MOST_KNOWN = 1_000;

/** Settings with the writer's defaults filled in. @throws bad-setting for what its schema refuses. */
export function filledSettings(writer: WriterKind, settings: object): Record<string, unknown> {
  const key = `${writer.id} ${JSON.stringify(settings)}`;
  const before = known.get(key);
  if (before) return before;
  try {
    const filled = { ...writer.settings.getDefault(), ...settings };
    const checked = writer.settings.noUnknown().validateSync(filled, { strict: true });
    if (known.size >= MOST_KNOWN) known.clear();
    known.set(key, checked);
    return checked;
  } catch (error) {
    const message = error instanceof Error ? error.message : String(error);
    throw new BijouError('bad-setting', `${writer.name}: ${message}`, 'Change that setting.');
  }
}

/** Filled settings that this rate and layout may have. @throws bad-setting, not-legal */
export function checkedSettings(
  writer: WriterKind,
  settings: object,
  rateHz: number,
  channels: number,
): Record<string, unknown> {
  const checked = filledSettings(writer, settings);
  const refusal = legalityRefusal(writer, rateHz, channels);
  if (refusal) throw refusal;
  const sentence = writer.refuses?.(checked, rateHz, channels);
  if (sentence) {
    const near = writer.nearest?.(checked, rateHz, channels);
    const hint = near ? `The nearest is ${writer.describe(near)}.` : 'Choose another setting.';
    throw new BijouError('not-legal', sentence, hint);
  }
  return checked;
}

/** Players will take the channels for those of the usual layout. */
function layoutLost(channelCount: number, mask: number): string {
  const stated = speakersOf(channelCount, mask);
  const usual = speakersOf(channelCount);
  const what = stated ? `that its channels are ${stated.join(' ')}` : 'what its channels are for';
  return usual ? `${what} (players will take them for ${usual.join(' ')})` : what;
}

/** Encodes a stream, with the tags, loop and markers that the format can carry. */
export async function writeSound(
  pcm: PcmStream,
  writerId: string,
  settings: object,
  sink: ByteSink,
  marks: Marks = noMarks,
): Promise<WriteResult> {
  const writer = writerById(writerId);
  const checked = checkedSettings(writer, settings, pcm.rateHz, pcm.channelCount);
  return writer.write(rechunk(pcm, WRITER_FRAMES), sink, checked, marks);
}

/** What reaches from one end of the sound to the loop needs no place of its own. */
function arePartsLost({ intro, tail }: Partial<SoundMarks>, frames: number): boolean {
  return (intro?.startFrame ?? 0) > 0 || (tail?.endFrame ?? frames) < frames;
}

/** What the format has no place for, as a warning; null when all is kept. */
export function lostMarks(
  { name, carries, loses }: WriterKind,
  marks: Marks & Partial<SoundMarks>,
  { speakerMask, channelCount, frames }: Pick<Shape, 'speakerMask' | 'channelCount' | 'frames'>,
): Warning | null {
  const isUnusual = isUnusualMask(speakerMask, channelCount);
  const lost = [
    isUnusual && !carries.speakers ? layoutLost(channelCount, speakerMask) : '',
    marks.loop && !carries.loop ? 'the loop points' : '',
    arePartsLost(marks, frames) ? 'where intro and tail lie' : '',
    marks.markers.length > 0 && !carries.markers ? plural(marks.markers.length, 'marker') : '',
    Object.keys(marks.tags).length > 0 && !carries.tags ? 'the tags' : '',
    ...(loses?.(marks) ?? []),
  ].filter((text) => text !== '');
  if (lost.length === 0) return null;
  return { code: 'not-kept', message: `${name} has no place for ${lost.join(' and ')}.` };
}
