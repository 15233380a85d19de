import { BijouError } from '../../errors';
import type { Dial, WriterKind } from '../../formats/types';
import { filledSettings, writerById, writerFor } from '../../formats/write';
import type { Candidate, NamedCandidate } from './candidate';

/** How a number in a candidate's text is read: "q3", "vbr2", "l8", "128". */
interface Token {
  sign: string;
  dial: Dial['name'];
  /** Of the writers that have it, those whose texts use the sign. */
  fits(kind: WriterKind): boolean;
}

const hasDial = ({ dials }: WriterKind, name: Dial['name']) =>
  dials.some((dial) => dial.name === name);
const hasBoth = (kind: WriterKind) => hasDial(kind, 'kbps') && hasDial(kind, 'quality');

const tokens: readonly Token[] = [
  { sign: 'vbr', dial: 'quality', fits: hasBoth },
  { sign: 'q', dial: 'quality', fits: (kind) => hasDial(kind, 'quality') && !hasBoth(kind) },
  { sign: 'l', dial: 'level', fits: (kind) => hasDial(kind, 'level') },
  { sign: '', dial: 'kbps', fits: (kind) => hasDial(kind, 'kbps') },
];

/**
 * Reads a candidate such as "ogg/vorbis@q3", "mp3@128", "mp3@vbr2", "wav/pcm@16" or "flac@16+l8".
 * @throws wrong-call for what no format can be told
 */
export function parseCandidate(text: string): Candidate {
  const found = /^([^/@\s]+)(?:\/([^/@\s]+))?(?:@([^@\s]+))?$/.exec(text.trim());
  if (!found) throw unknown(text);
  const [, format, codec, said] = found;
  const kind = kindOf(text, format!, codec);
  const parts =
    said === undefined ? [] : said.split('+').map((part) => settingOf(kind, part, text));
  return { writer: kind.id, settings: Object.assign({}, ...parts) as object };
}

function kindOf(text: string, format: string, codec: string | undefined): WriterKind {
  try {
    return writerFor(format, codec);
  } catch (error) {
    if (!(error instanceof BijouError)) throw error;
    throw new BijouError('wrong-call', `"${text}": ${error.message}`, error.hint);
  }
}

function settingOf(kind: WriterKind, part: string, text: string): object {
  const found = /^([a-z]*)(-?\d+(?:\.\d+)?)$/.exec(part);
  const value = Number(found?.[2]);
  const token = tokens.find((one) => one.sign === found?.[1] && one.fits(kind));
  if (token) return { [token.dial]: value };
  const depth = found?.[1] === '' && kind.legal.depths?.find(({ bits }) => bits === value);
  if (depth) return depth.settings;
  const takes = [
    ...tokens.filter((one) => one.fits(kind)).map(({ sign }) => `@${sign}NUMBER`),
    ...(kind.legal.depths ?? []).map(({ bits }) => `@${bits}`),
  ];
  throw new BijouError(
    'wrong-call',
    `"${text}": ${kind.name} knows no "@${part}".`,
    takes.length === 0 ? 'It has nothing to set.' : `It takes ${takes.join(', ')}.`,
  );
}

function unknown(text: string): BijouError {
  return new BijouError(
    'wrong-call',
    `"${text}" is no candidate.`,
    'Write such as ogg/vorbis@q3, mp3@128, mp3@vbr2, ogg/opus@96, m4a/aac@96, wav/pcm@16 or flac.',
  );
}

/** The text that reads back as a candidate's format and settings. */
export function candidateText({ writer, settings }: Candidate): string {
  const kind = writerById(writer);
  const own = settings as Record<string, unknown>;
  const said = tokens.flatMap(({ sign, dial, fits }) =>
    fits(kind) && own[dial] !== undefined ? [`${sign}${String(own[dial])}`] : [],
  );
  const depth = kind.legal.depths?.find((one) =>
    Object.entries(one.settings).every(([name, value]) => own[name] === value),
  );
  const parts = [...(depth ? [`${depth.bits}`] : []), ...said];
  const name = kind.codec === kind.format ? kind.format : `${kind.format}/${kind.codec}`;
  return parts.length === 0 ? name : `${name}@${parts.join('+')}`;
}

/** A candidate with what people call it, and what it is made of. */
export function namedCandidate(candidate: Candidate): NamedCandidate {
  const { writer, settings } = candidate;
  const { name, codec, format, legal, describe } = writerById(writer);
  // What follows the source is not known here.
  const isOpen = legal.depths !== null && !('bits' in settings) && !('encoding' in settings);
  const said = isOpen ? [] : [describe(filled(candidate))];
  return {
    ...candidate,
    ...{ codec, format, text: candidateText(candidate) },
    name: [name, ...said].join(', '),
  };
}

/** With the usual settings where nothing is said; as they are where they cannot be. */
function filled({ writer, settings }: Candidate): Record<string, unknown> {
  try {
    return filledSettings(writerById(writer), settings);
  } catch (error) {
    if (!(error instanceof BijouError)) throw error;
    return settings as Record<string, unknown>;
  }
}
