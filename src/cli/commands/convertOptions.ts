import { BijouError } from '@/core/errors';
import { writerById } from '@/core/formats/write';
import type { Recipe, Shape, Step } from '@/core/recipe/types';
import { parseTime } from '@/core/time';

export interface ConvertOptions {
  out: string;
  format?: string;
  bits?: string;
  bitrate?: string;
  quality?: string;
  rate?: string;
  channels?: string;
  from?: string;
  to?: string;
  overwrite?: boolean;
  json?: boolean;
}

function wrong(message: string, hint: string): BijouError {
  return new BijouError('wrong-call', message, hint);
}

function numberOption(name: string, text: string | undefined): number | undefined {
  if (text === undefined) return undefined;
  const value = Number(text);
  if (text.trim() === '' || !Number.isFinite(value)) {
    throw wrong(`--${name} needs a number, not "${text}".`, `For example --${name} 128.`);
  }
  return value;
}

/** Settings of the writer that the options ask for. @throws wrong-call for options that do not go together. */
export function writerSettings(options: ConvertOptions): { writer: string; settings: object } {
  const writer = writerById(options.format ?? 'wav').id;
  const kbps = numberOption('bitrate', options.bitrate);
  const quality = numberOption('quality', options.quality);
  if (kbps !== undefined && quality !== undefined) {
    throw wrong('--bitrate and --quality exclude each other.', 'Give one of them.');
  }
  const takes = optionsTaken[writer] ?? [];
  for (const name of ['bits', 'bitrate', 'quality'] as const) {
    if (options[name] !== undefined && !takes.includes(name)) {
      throw wrong(
        `--${name} means nothing for ${writer}.`,
        `${writer} takes --${takes.join(' or --')}.`,
      );
    }
  }
  if (writer === 'wav') return { writer, settings: { bits: wavBits(options.bits) } };
  if (quality !== undefined) return { writer, settings: { quality } };
  if (kbps !== undefined) return { writer, settings: { kbps } };
  return { writer, settings: defaults[writer] ?? {} };
}

const optionsTaken: Record<string, readonly string[]> = {
  wav: ['bits'],
  mp3: ['bitrate', 'quality'],
  ogg: ['quality'],
  m4a: ['bitrate'],
};
const defaults: Record<string, object> = {
  mp3: { kbps: 192 },
  ogg: { quality: 5 },
  m4a: { kbps: 128 },
};

function wavBits(text = '24'): number {
  const bits = { '16': 16, '24': 24, '32f': 32 }[text];
  if (bits === undefined) throw wrong(`--bits cannot be "${text}".`, 'Choose 16, 24 or 32f.');
  return bits;
}

/** Rate and layout that the options ask for, checked before any file is opened. */
export function shapeOptions(options: ConvertOptions) {
  const rateHz = numberOption('rate', options.rate);
  if (rateHz !== undefined && (!Number.isInteger(rateHz) || rateHz < 1_000 || rateHz > 768_000)) {
    throw wrong(`--rate cannot be ${options.rate}.`, 'Give a sample rate in Hz, such as 44100.');
  }
  const modes: Record<string, string> = {
    mono: 'mix',
    left: 'left',
    right: 'right',
    stereo: 'stereo',
  };
  const mode = options.channels === undefined ? undefined : modes[options.channels];
  if (options.channels !== undefined && mode === undefined) {
    throw wrong(
      `--channels cannot be "${options.channels}".`,
      'Choose mono (both mixed), left, right or stereo.',
    );
  }
  // Times are read again for each file's own rate; here only whether they are times at all.
  for (const time of [options.from, options.to]) if (time !== undefined) parseTime(time, 48_000);
  return { rateHz, mode };
}

/** The recipe for one file, in the order span, channels, rate. */
export function recipeFor(
  options: ConvertOptions,
  { rateHz, mode }: ReturnType<typeof shapeOptions>,
  source: Shape,
): Recipe {
  const steps: Step[] = [];
  if (options.from !== undefined || options.to !== undefined) {
    const startFrame =
      options.from === undefined ? 0 : parseTime(options.from, source.rateHz).frame;
    const endFrame =
      options.to === undefined ? source.frames : parseTime(options.to, source.rateHz).frame;
    steps.push({ kind: 'keep', on: true, params: { startFrame, endFrame } });
  }
  if (mode !== undefined) steps.push({ kind: 'channels', on: true, params: { mode } });
  if (rateHz !== undefined) {
    steps.push({ kind: 'resample', on: true, params: { rateHz } });
  }
  return { version: 1, steps };
}
