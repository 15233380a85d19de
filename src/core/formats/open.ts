import type { ByteSource } from '../bytes/source';
import { BijouError } from '../errors';
import { noMarks, type Loop } from '../marks';
import { blockFrames, type Block } from '../pcm/pcm';
import type { PcmSource } from '../pcm/source';
import { speakersOf } from '../pcm/speakers';
import { ascii } from './bits';
import { readers } from './readers';
import { openRaw, type RawDescription } from './raw/reader';
import { skipId3v2 } from './tags/id3';
import { count } from '../tradeNames';
import type { OpenedFile, ReaderKind, SoundReader, StatedHeader, Warning } from './types';

/** How much of a file is looked at to tell what it is. */
export const HEAD_BYTES = 8192;

/**
 * Opens any file that Bijou can read, by what is in it; with `raw`, as the samples that it describes.
 * @throws empty-file, not-audio, and what the reader of the format says.
 */
export async function openSound(source: ByteSource, raw?: RawDescription): Promise<SoundReader> {
  if (source.size === 0) {
    throw new BijouError(
      'empty-file',
      'The file is empty: it has 0 bytes.',
      'Check that it was copied or downloaded to the end.',
    );
  }
  if (raw) return whole(openRaw(source, raw), 'raw PCM');
  const kind = await kindOf(source);
  try {
    return whole(await kind.open(source), kind.name);
  } catch (error) {
    throw explained(error, kind.name);
  }
}

/** Finds the reader by the first bytes, or by those behind an ID3 tag. */
async function kindOf(source: ByteSource): Promise<ReaderKind> {
  const head = await source.read(0, HEAD_BYTES);
  if (ascii(head, 0, 3) === 'ID3') {
    const inner = await source.read(await skipId3v2(source), HEAD_BYTES);
    const marked = readers.find((reader) => reader.id !== 'mp3' && reader.detect(inner));
    if (marked && readsTagged.has(marked.id)) return marked;
  }
  const kind = readers.find((reader) => reader.detect(head));
  if (kind) return kind;
  throw new BijouError(
    'not-audio',
    looksLikeText(head)
      ? 'It is text, not sound, whatever its name says.'
      : 'It is not a sound in a format that Bijou reads.',
    `Bijou reads ${readers.map((reader) => reader.name).join(', ')}; raw samples when told rate, channels and encoding.`,
    { byteOffset: 0 },
  );
}

/** Endings that promise sound: those of every format, and the usual ones of bare samples. */
const soundEndings = new Set([
  // What ends in ".h" is usually no array of samples; those are told by their contents.
  ...readers.flatMap((reader) => reader.extensions).filter((ending) => ending !== 'h'),
  ...['raw', 'pcm', 'snd'],
]);

/** Whether somebody will have meant a file as a sound: its first bytes or its ending say so. */
export function isMeantAsSound(head: Uint8Array, fileName: string): boolean {
  const ending = /\.([^./]+)$/.exec(fileName)?.[1]?.toLowerCase();
  return (
    (ending !== undefined && soundEndings.has(ending)) ||
    readers.some((reader) => reader.detect(head))
  );
}

/** Whether a file holds plain samples, which can be entered at any frame at once. */
export function isPlainWav({ container, codec }: { container: string; codec: string }): boolean {
  return container === 'wav' && codec !== 'ima-adpcm';
}

/** Formats other than MP3 that may stand behind an ID3 tag. */
const readsTagged = new Set(['flac', 'adts']);

/** The longest sound that is read: a day. A small file can claim to be years. */
const MOST_SECONDS = 24 * 3_600;
/** More marked places than anybody set by hand. */
const MOST_MARKERS = 10_000;
const MOST_NAME_LETTERS = 400;

/** Leaves nothing open in the header, and gives what decoders throw a sentence. */
function whole(file: OpenedFile, name: string): SoundReader {
  const { warnings } = file;
  const { loopTroubles = [], ...header } = file.header;
  for (const message of loopTroubles) warnings.push({ code: 'loop-not-used', message });
  const mostFrames = MOST_SECONDS * header.sampleRateHz;
  if ((header.frames ?? 0) > mostFrames) throw tooLong();
  const markers = (header.markers ?? []).slice(0, MOST_MARKERS);
  if (markers.length < (header.markers ?? []).length) warnings.push(manyMarkers(header));
  const loop = loopInside(header.loop ?? null, header.frames, warnings);
  return {
    warnings,
    header: {
      ...noMarks,
      addedFrames: { head: 0, tail: 0 },
      otherRates: [],
      constantKbps: null,
      ...header,
      loop,
      markers: markers.map((one) => ({ ...one, name: one.name.slice(0, MOST_NAME_LETTERS) })),
      speakerMask: header.speakerMask ?? 0,
      speakers: speakersOf(header.channels, header.speakerMask),
    },
    pcm(startFrame) {
      const pcm = file.pcm(startFrame);
      async function* blocks(): AsyncGenerator<Block> {
        let frames = 0;
        try {
          for await (const block of pcm.blocks) {
            frames += blockFrames(block);
            if (frames > mostFrames) throw tooLong();
            yield block;
          }
        } catch (error) {
          throw explained(error, name);
        }
      }
      return { ...pcm, speakerMask: header.speakerMask, blocks: blocks() };
    },
  };
}

/** A loop that lies in the sound as far as that is known; says why where it does not. */
export function loopInside(
  loop: Loop | null,
  frames: number | null,
  warnings: Warning[],
): Loop | null {
  if (!loop || frames === null || loop.endFrame <= frames) return loop;
  warnings.push({
    code: 'loop-outside',
    message:
      `It states a loop from frame ${count(loop.startFrame)} to ${count(loop.endFrame)}, ` +
      `but ends at ${count(frames)}: the loop is not used.`,
  });
  return null;
}

function tooLong(): BijouError {
  return new BijouError(
    'too-large',
    `The sound is longer than ${MOST_SECONDS / 3_600} hours.`,
    'Bring it in in shorter pieces. If it is not that long, its file is damaged.',
  );
}

function manyMarkers({ markers = [] }: StatedHeader): Warning {
  return {
    code: 'many-markers',
    message: `It has ${count(markers.length)} markers; the first ${count(MOST_MARKERS)} are used.`,
  };
}

/** An opened sound of `frames` frames as a source. */
export function sourceOf(reader: SoundReader, frames: number): PcmSource {
  const { rateHz, channelCount, gridBits, speakerMask } = reader.pcm();
  const { loop } = reader.header;
  return {
    ...{ rateHz, channelCount, frames, gridBits, speakerMask },
    loop: loop && loop.endFrame <= frames ? loop : null,
    from: (startFrame) => reader.pcm(startFrame).blocks,
  };
}

/** Decoders are other people's code and meet bytes that nobody foresaw. */
function explained(error: unknown, name: string): unknown {
  // Faults of the disk carry a code and are not the format's.
  const isFromDisk = typeof (error as { code?: unknown } | null)?.code === 'string';
  if (error instanceof BijouError || isFromDisk) return error;
  return new BijouError(
    'damaged-sound',
    `The ${name} file is damaged in a way that its decoder gives up on.`,
    'Get the file again from where it came from, or export it anew.',
  );
}

function looksLikeText(head: Uint8Array): boolean {
  return head.every((byte) => byte >= 32 || byte === 9 || byte === 10 || byte === 13);
}
