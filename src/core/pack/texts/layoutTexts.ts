import { textNames, type LayoutText } from '../../brief/layout';
import { BijouError, errorFacts } from '../../errors';
import { encodeText } from '../../formats/bits';
import { count } from '../../tradeNames';
import type { ManifestData } from '../data';
import { manifestKind } from '../manifests';
import { wrong, type PartTrouble } from '../troubles';
import { textKind } from './kinds';
import type { TextKind, TextProblem } from './kind';
import { Places } from './places';
import { filledTemplate, type TemplateData, type TemplateValue } from './template';

/** A text of a layout, written: right, or with what is wrong in it. */
export interface WrittenText {
  path: string;
  text: string;
  /** As it lies in the pack: UTF-8 without a mark, of which ASCII is a part. */
  bytes: Uint8Array;
  troubles: PartTrouble[];
}

/** The kind of text that it claims to be. @throws not-found */
export function kindOf({ manifest, is = 'text' }: LayoutText): TextKind {
  return textKind(manifest === undefined ? is : manifestKind(manifest).is);
}

/** Writes a text of a layout and holds it against what it claims to be. */
export function writtenText(
  layout: LayoutText,
  data: ManifestData,
  bytesOf: (sha256: string) => Uint8Array,
): WrittenText {
  const { path, encoding = 'utf-8' } = layout;
  const isAscii = encoding === 'ascii';
  try {
    const kind = kindOf(layout);
    const { text, problems } = filled(layout, data, kind, isAscii, bytesOf);
    if (problems.length === 0 && text === '') {
      const empty = wrong('text', `${path} would be empty.`, 'Correct its template.', { path });
      return { path, text, bytes: new Uint8Array(), troubles: [empty] };
    }
    // What comes of `JSON.stringify` is JSON.
    const isJson = layout.manifest !== undefined && kind.id === 'json';
    const all = problems.length > 0 || isJson ? problems : kind.problems(text);
    const beyond = isAscii && all.length === 0 ? beyondAscii(text) : [];
    const usual = layout.manifest
      ? 'Change the name or title that it comes from.'
      : 'Correct its template.';
    const troubles = [...all, ...beyond]
      .slice(0, MOST_TROUBLES)
      .map(({ line, column, message, cure }) =>
        wrong(
          'text',
          `${path}${cure ? '' : ` would be no ${textNames[kind.id]}`}: line ${line}, column ${column}: ${message}.`,
          cure ?? usual,
          { path, line, column },
        ),
      );
    return { path, text, bytes: encodeText(text), troubles };
  } catch (error) {
    const { message, hint } = errorFacts(error);
    const troubles = [wrong('text', `${path} cannot be written: ${message}`, hint, { path })];
    return { path, text: '', bytes: new Uint8Array(), troubles };
  }
}

function filled(
  { manifest, options = {}, template = '' }: LayoutText,
  data: ManifestData,
  kind: TextKind,
  isAscii: boolean,
  bytesOf: (sha256: string) => Uint8Array,
): { text: string; problems: TextProblem[] } {
  if (manifest === undefined) return filledTemplate(template, templateData(data), kind, isAscii);
  const { text: write, needsBytes } = manifestKind(manifest);
  if (needsBytes?.(options)) refuseTooMuch(data);
  const text = write(data, options, bytesOf);
  return { text: isAscii ? (kind.inAscii?.(text) ?? text) : text, problems: [] };
}

/** More of one text are no help to anybody. */
const MOST_TROUBLES = 50;

/** Bytes of sounds that a text holds at most: each takes several characters there. */
const MOST_HELD_BYTES = 4_000_000;

function refuseTooMuch({ sounds }: ManifestData): void {
  const bytes = sounds.reduce((sum, one) => sum + one.bytes, 0);
  if (bytes <= MOST_HELD_BYTES) return;
  throw new BijouError(
    'too-large',
    `It would hold ${count(bytes)} bytes of sounds; a text holds at most ${count(MOST_HELD_BYTES)}.`,
    'Send fewer or shorter sounds there, or leave their bytes out of it.',
  );
}

function beyondAscii(text: string): TextProblem[] {
  const at = text.search(/[^\0-\x7f]/);
  if (at < 0) return [];
  const letter = String.fromCodePoint(text.codePointAt(at)!);
  return [{ ...new Places(text).at(at), message: `“${letter}” is no letter of ASCII` }];
}

/** The data of a pack as templates know them; lists are made where they are asked for. */
function templateData(data: ManifestData): TemplateData {
  const { title, project, brief, icon, notes, fields } = data;
  return {
    ...fields,
    title,
    project,
    brief,
    icon,
    bytes: data.sounds.reduce((sum, { bytes }) => sum + bytes, 0),
    count: data.sounds.length,
    notes: listed(notes, (text) => ({ text })),
    get sounds() {
      return soundsIn(data);
    },
    get calls() {
      return callsIn(data);
    },
  };
}

function soundsIn({ sounds }: ManifestData): TemplateValue {
  return listed(sounds, (one) => ({
    path: one.path,
    name: one.name,
    group: one.group,
    bytes: one.bytes,
    sha256: one.sha256,
    frames: one.frames,
    seconds: one.seconds,
    rate: one.sampleRateHz,
    channels: one.channels,
    type: one.mimeType,
    loop: one.loop && {
      start: one.loop.startFrame,
      length: one.loop.endFrame - one.loop.startFrame,
    },
  }));
}

function callsIn({ calls }: ManifestData): TemplateValue {
  return listed(calls, ({ id, levelDb, pitch: [low, high], read, variants }) => ({
    id,
    level: levelDb,
    low,
    high,
    read,
    variants: listed(variants, ({ path, odds }) => ({ path, odds })),
  }));
}

function listed<T>(items: readonly T[], shown: (item: T) => TemplateData): TemplateValue {
  return items.map((item, i) => ({
    ...shown(item),
    first: i === 0,
    last: i === items.length - 1,
    number: i + 1,
  }));
}
