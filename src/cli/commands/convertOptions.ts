import { isRate } from '@/core/pcm/rates';
import { fadeShapes, type FadeShape } from '@/core/dsp/fade';
import { BijouError } from '@/core/errors';
import { parseRaw, type RawDescription } from '@/core/formats/raw/reader';
import { filledSettings, writerFor } from '@/core/formats/write';
import { tagNames, tidyTags, type TagName, type Tags } from '@/core/marks';
import { shapeAfter } from '@/core/recipe/recipe';
import { stepKinds } from '@/core/recipe/steps';
import { usualLimit } from '@/core/recipe/steps/limit';
import { otherwises, type NormaliseParams } from '@/core/recipe/steps/normalise';
import type { Recipe, Shape, Step } from '@/core/recipe/types';
import { parseTime } from '@/core/time';

export interface ConvertOptions {
  out: string;
  format?: string;
  codec?: string;
  bits?: string;
  bitrate?: string;
  quality?: string;
  level?: string;
  rate?: string;
  channels?: string;
  from?: string;
  to?: string;
  fadeIn?: string;
  fadeOut?: string;
  gain?: string;
  normalise?: string;
  ceiling?: string;
  ifShort?: string;
  limit?: string;
  relabel?: string;
  speed?: string;
  reverse?: boolean;
  polarity?: boolean;
  removeDc?: boolean;
  declick?: boolean;
  tag?: string[];
  stripTags?: boolean;
  suffix?: string;
  raw?: string;
  overwrite?: boolean;
  json?: boolean;
}

function wrong(message: string, hint: string): BijouError {
  return new BijouError('wrong-call', message, hint);
}

function numberOption(
  name: string,
  text: string | undefined,
  range?: { min: number; max: number },
): number | undefined {
  if (text === undefined) return undefined;
  const value = Number(text.replace('−', '-'));
  if (text.trim() === '' || !Number.isFinite(value)) {
    throw wrong(`--${name} needs a number, not "${text}".`, `For example --${name} 1.`);
  }
  if (range && (value < range.min || value > range.max)) {
    throw wrong(`--${name} cannot be ${text}.`, `Give a number from ${range.min} to ${range.max}.`);
  }
  return value;
}

/** What a kind of step takes for one of its numbers. */
function rangeOf(kind: string, name: string): { min: number; max: number } {
  const fields = stepKinds.find((step) => step.kind === kind)?.fields ?? [];
  const field = fields.find((one) => one.name === name);
  if (field?.type !== 'number') throw new Error(`no number ${name} in ${kind}`);
  return field;
}

function rateOption(name: string, text: string | undefined): number | undefined {
  const rateHz = numberOption(name, text);
  if (rateHz !== undefined && !isRate(rateHz)) {
    throw wrong(`--${name} cannot be ${text}.`, 'Give a sample rate in Hz, such as 44100.');
  }
  return rateHz;
}

/** Writer and settings that the options ask for. @throws wrong-call for options that do not go together. */
export function writerSettings(options: ConvertOptions): { writer: string; settings: object } {
  const kind = writerFor(options.format ?? 'wav', options.codec);
  if (options.bitrate !== undefined && options.quality !== undefined) {
    throw wrong('--bitrate and --quality exclude each other.', 'Give one of them.');
  }
  const known = Object.keys(kind.settings.fields);
  const asked = settingOptions.flatMap((option) => {
    const text = options[option.name];
    if (text === undefined) return [];
    const key = option.keys.find((name) => known.includes(name));
    if (key !== undefined) return [[key, option.read(text, key)] as const];
    const takes = settingOptions.filter(({ keys }) => keys.some((name) => known.includes(name)));
    throw wrong(
      `--${option.name} means nothing for ${kind.name}.`,
      takes.length > 0
        ? `${kind.name} takes --${takes.map(({ name }) => name).join(' or --')}.`
        : `${kind.name} has no settings.`,
    );
  });
  return { writer: kind.id, settings: filledSettings(kind, Object.fromEntries(asked)) };
}

interface SettingOption {
  name: 'bits' | 'bitrate' | 'quality' | 'level';
  /** Which of a writer's settings it sets. */
  keys: readonly string[];
  read(text: string, key: string): unknown;
}

const plain = (name: SettingOption['name'], key: string): SettingOption => ({
  name,
  keys: [key],
  read: (text) => numberOption(name, text),
});

const settingOptions: readonly SettingOption[] = [
  { name: 'bits', keys: ['bits', 'encoding'], read: readBits },
  plain('bitrate', 'kbps'),
  plain('quality', 'quality'),
  plain('level', 'level'),
];

function readBits(text: string, key: string): unknown {
  const byKey: Record<string, Record<string, unknown>> = {
    bits: { '8': 8, '16': 16, '24': 24, '32f': 32 },
    encoding: { u8: 'u8', s8: 's8', s16le: 's16le', '8': 'u8', '16': 's16le' },
  };
  const choices = byKey[key] ?? {};
  if (text in choices) return choices[text];
  throw wrong(`--bits cannot be "${text}".`, `Choose ${Object.keys(choices).join(', ')}.`);
}

/** Tags that are to be written in place of the source's. */
export function tagOptions({ tag = [] }: ConvertOptions): Tags {
  const found: Partial<Record<TagName, string>> = {};
  for (const text of tag) {
    const equals = text.indexOf('=');
    const name = tagNames.find((known) => known === text.slice(0, Math.max(0, equals)));
    if (!name) {
      throw wrong(
        `--tag cannot be "${text}".`,
        `Write name=text, with one of ${tagNames.join(', ')}.`,
      );
    }
    // An empty text clears the tag.
    found[name] = tidyTags({ [name]: text.slice(equals + 1) })[name] ?? '';
  }
  return found;
}

const layouts: Record<string, string> = {
  mono: 'mix',
  left: 'left',
  right: 'right',
  stereo: 'stereo',
  swap: 'swap',
};

export interface Plan {
  raw: RawDescription | undefined;
  /** Whether each channel becomes a file of its own. */
  isSplit: boolean;
  /** One recipe for each result of a file with this shape, with what tells its name apart. */
  recipes(source: Shape): { recipe: Recipe; mark: string }[];
}

/** What is to be done with each file, checked as far as it can be before any is opened. */
export function planOf(options: ConvertOptions): Plan {
  const numbers = {
    rateHz: rateOption('rate', options.rate),
    relabelHz: rateOption('relabel', options.relabel),
    gainDb: numberOption('gain', options.gain, rangeOf('gain', 'gainDb')),
    ceilingDbtp: numberOption('ceiling', options.ceiling, rangeOf('normalise', 'ceilingDbtp')),
    limitDbtp: numberOption('limit', options.limit, rangeOf('limit', 'ceilingDbtp')),
    factor: numberOption('speed', options.speed, rangeOf('speed', 'factor')),
  };
  const isSplit = options.channels === 'split';
  const mode = options.channels === undefined ? undefined : layouts[options.channels];
  if (options.channels !== undefined && mode === undefined && !isSplit) {
    throw wrong(
      `--channels cannot be "${options.channels}".`,
      'Choose mono (all mixed), left, right, stereo, swap or split.',
    );
  }
  const normalise = normaliseOption(options.normalise, numbers.ceilingDbtp, options.ifShort);
  const fades = [fadeOption('fade-in', options.fadeIn), fadeOption('fade-out', options.fadeOut)];
  // Times are read again for each file's own rate; here only whether they are times at all.
  for (const time of [options.from, options.to]) if (time !== undefined) parseTime(time, 48_000);

  const recipeFor = (source: Shape, channels: Record<string, unknown> | null): Recipe => {
    const steps: Step[] = [];
    const add = (kind: string, params: Record<string, unknown> = {}) =>
      steps.push({ kind, on: true, params });
    const { rateHz, relabelHz, gainDb, limitDbtp, factor } = numbers;
    if (relabelHz !== undefined) add('relabel', { rateHz: relabelHz });
    if (options.from !== undefined || options.to !== undefined) {
      add('keep', spanOf(options, { ...source, rateHz: relabelHz ?? source.rateHz }));
    }
    if (options.removeDc) add('offset');
    if (options.declick) add('declick');
    if (channels) add('channels', channels);
    if (options.polarity) add('polarity');
    if (options.reverse) add('reverse');
    if (factor !== undefined) add('speed', { factor });
    if (rateHz !== undefined) add('resample', { rateHz });
    const now = shapeAfter({ version: 1, steps }, source).rateHz;
    for (const fade of fades) {
      if (fade) add(fade.kind, { frames: parseTime(fade.time, now).frame, shape: fade.shape });
    }
    if (gainDb !== undefined) add('gain', { gainDb });
    // Last, so that the result has the very level that was asked for.
    if (normalise) add('normalise', normalise);
    if (limitDbtp !== undefined) add('limit', { ...usualLimit, ceilingDbtp: limitDbtp });
    return { version: 1, steps };
  };
  return {
    raw: options.raw === undefined ? undefined : parseRaw(options.raw),
    isSplit,
    recipes(source) {
      if (!isSplit) return [{ recipe: recipeFor(source, mode ? { mode } : null), mark: '' }];
      return Array.from({ length: source.channelCount }, (_, c) => ({
        recipe: recipeFor(source, { mode: 'keep', channel: c + 1 }),
        mark: `-${c + 1}`,
      }));
    },
  };
}

function spanOf(options: ConvertOptions, { rateHz, frames }: Shape) {
  const startFrame = options.from === undefined ? 0 : parseTime(options.from, rateHz).frame;
  const endFrame = options.to === undefined ? frames : parseTime(options.to, rateHz).frame;
  return { startFrame, endFrame };
}

/** `0.5` or `0.5,s`. */
function fadeOption(kind: 'fade-in' | 'fade-out', text: string | undefined) {
  if (text === undefined) return null;
  const [time = '', shape = 'linear'] = text.split(',');
  parseTime(time, 48_000);
  if (!(shape in fadeShapes)) {
    throw wrong(
      `--${kind} has no shape "${shape}".`,
      `Choose ${Object.keys(fadeShapes).join(', ')}, as in --${kind} 0.5,s.`,
    );
  }
  return { kind, time, shape: shape as FadeShape };
}

/** `peak=-1`, `true-peak=-1` or `lufs=-16`; with what is done with what is too short to have a loudness. */
function normaliseOption(
  text: string | undefined,
  ceilingDbtp: number | undefined,
  ifShort: string | undefined,
): Record<string, unknown> | null {
  if (text === undefined) {
    const alone = ceilingDbtp !== undefined ? 'ceiling' : ifShort !== undefined ? 'if-short' : null;
    if (alone === null) return null;
    throw wrong(`--${alone} needs --normalise.`, 'For example --normalise lufs=-16 --ceiling -1.');
  }
  const found = /^(peak|true-peak|lufs)=([-−]?\d+(?:\.\d+)?)$/.exec(text);
  const target = Number(found?.[2]?.replace('−', '-'));
  if (!found || !(target >= -70 && target <= 0)) {
    throw wrong(
      `--normalise cannot be "${text}".`,
      'Write peak=-1, true-peak=-1 or lufs=-16; the figure lies between -70 and 0.',
    );
  }
  if (ifShort !== undefined && !(ifShort in otherwises)) {
    throw wrong(
      `--if-short cannot be "${ifShort}".`,
      `Choose ${Object.keys(otherwises).join(', ')}.`,
    );
  }
  const params: NormaliseParams = {
    to: found[1] as NormaliseParams['to'],
    target,
    ...(ceilingDbtp !== undefined && { ceilingDbtp }),
    ...(ifShort !== undefined && { otherwise: ifShort as NormaliseParams['otherwise'] }),
  };
  return { ...params };
}
