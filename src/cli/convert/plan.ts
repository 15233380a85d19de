import { fadeShapes, type FadeShape } from '@/core/dsp/fade';
import { parseRaw, type RawDescription } from '@/core/formats/raw/reader';
import { legalityRefusal } from '@/core/formats/legality';
import { holdsRate } from '@/core/formats/rates';
import { writerById } from '@/core/formats/write';
import type { Change } from '@/core/oneOff/change';
import { fit, type StoredAs } from '@/core/oneOff/fit';
import { shapeAfter } from '@/core/recipe/recipe';
import { usualLimit } from '@/core/recipe/steps/limit';
import { otherwises, type NormaliseParams } from '@/core/recipe/steps/normalise';
import type { Recipe, Shape, Step } from '@/core/recipe/types';
import { parseTime } from '@/core/time';
import { numberOption, rangeOf, rateOption, wrong } from './numbers';
import type { ConvertOptions } from './options';
import { writerSettings } from './settings';

const layouts: Record<string, string> = {
  mono: 'mix',
  left: 'left',
  right: 'right',
  stereo: 'stereo',
  swap: 'swap',
};

/** How one result of a file is made. */
interface PlannedResult {
  recipe: Recipe;
  settings: object;
  /** What tells its name apart from those of its siblings. */
  mark: string;
  /** What cannot stay as the source has it. */
  changes: Change[];
  /** Its shape. */
  shape: Shape;
}

export interface Plan {
  raw: RawDescription | undefined;
  writer: string;
  /** Whether each channel becomes a file of its own. */
  isSplit: boolean;
  /** What is normalised, where the files of a call get one gain together. */
  together: NormaliseParams | null;
  /**
   * The results of a file with this shape; `gainDb` stands in for what is normalised together.
   * @throws not-legal for what was asked for and the format cannot hold.
   */
  results(source: Shape, stored: StoredAs, gainDb?: number): PlannedResult[];
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

  const { writer, settings } = writerSettings(options);
  const kind = writerById(writer);
  if (options.together && !normalise) {
    throw wrong('--together needs --normalise.', 'For example --normalise peak=-1 --together.');
  }
  if (options.together && normalise?.['otherwise'] !== undefined) {
    throw wrong('--together and --if-short exclude each other.', 'Leave one of them out.');
  }

  function resultFor(
    source: Shape,
    stored: StoredAs,
    channels: Record<string, unknown> | null,
    gainTogetherDb: number | undefined,
  ): Omit<PlannedResult, 'mark'> {
    const steps: Step[] = [];
    const add = (kind: string, params: Record<string, unknown> = {}) =>
      steps.push({ kind, on: true, params });
    const now = () => shapeAfter({ version: 1, steps }, source);
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
    if (rateHz !== undefined) {
      // What is asked for by name is had or refused.
      const refusal = holdsRate(kind.legal.rates, rateHz)
        ? null
        : legalityRefusal(kind, rateHz, kind.legal.channels[0]!);
      if (refusal) throw refusal;
      add('resample', { rateHz });
    }
    const fitted = fit(now(), stored, { writer, settings, isStrict: options.strict });
    steps.push(...fitted.steps);
    const fadeRateHz = now().rateHz;
    for (const fade of fades) {
      if (fade)
        add(fade.kind, { frames: parseTime(fade.time, fadeRateHz).frame, shape: fade.shape });
    }
    if (gainDb !== undefined) add('gain', { gainDb });
    // Last, so that the result has the very level that was asked for.
    if (gainTogetherDb !== undefined) add('gain', { gainDb: gainTogetherDb });
    else if (normalise && !options.together) add('normalise', normalise);
    if (limitDbtp !== undefined) add('limit', { ...usualLimit, ceilingDbtp: limitDbtp });
    const { settings: complete, changes } = fitted;
    return { recipe: { version: 1, steps }, settings: complete, changes, shape: now() };
  }
  return {
    raw: options.raw === undefined ? undefined : parseRaw(options.raw),
    writer,
    isSplit,
    together: options.together ? (normalise as unknown as NormaliseParams) : null,
    results(source, stored, gainDb) {
      if (!isSplit) {
        return [{ ...resultFor(source, stored, mode ? { mode } : null, gainDb), mark: '' }];
      }
      return Array.from({ length: source.channelCount }, (_, c) => ({
        ...resultFor(source, stored, { mode: 'keep', channel: c + 1 }, gainDb),
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
