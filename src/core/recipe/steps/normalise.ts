import * as yup from 'yup';
import { gain } from '../../dsp/level';
import { BijouError } from '../../errors';
import { measureLevels, type WholeLevels } from '../../measure/levels';
import { plainNumber, signedDb } from '../../tradeNames';
import type { StepKind, StepTools } from '../types';
import { oneOfKeys, optionsOf } from './choice';

/** What is brought to the target, with the target that is usual for it. */
export const normaliseMeasures = {
  peak: { name: 'peak', unit: 'dBFS', usual: -1, fact: 'peakDbfs' },
  'true-peak': { name: 'true peak', unit: 'dBTP', usual: -1, fact: 'truePeakDbtp' },
  lufs: { name: 'loudness', unit: 'LUFS', usual: -16, fact: 'lufs' },
} as const;

/** Leaves a little room for what lies between the samples, and for lossy codecs. */
export const USUAL_CEILING_DBTP = -1;

/** What is done with a sound that is too short to have a loudness. */
export const otherwises = {
  momentary: 'take the loudness of its loudest 0.4 s',
  peak: `bring its true peak to ${plainNumber(USUAL_CEILING_DBTP)} dBTP`,
  refuse: 'refuse it',
} as const;

/** What is quieter everywhere is silence, which no gain makes louder. */
const SILENT_DB = -70;

export interface NormaliseParams {
  to: keyof typeof normaliseMeasures;
  target: number;
  /** True peak in dBTP that is not gone beyond, whatever the target. */
  ceilingDbtp?: number | undefined;
  /** For `lufs`: what is done with a sound that is shorter than 0.4 s; refused where nothing is said. */
  otherwise?: keyof typeof otherwises | undefined;
}

export const normalise: StepKind<NormaliseParams, WholeLevels> = {
  kind: 'normalise',
  name: 'Normalise',
  purpose: 'level',
  hint: 'brings peak, true peak or loudness to a level of your choice',
  fields: [
    {
      name: 'to',
      label: 'What',
      type: 'choice',
      options: optionsOf(normaliseMeasures, ({ name, unit }) => `${name} (${unit})`),
    },
    { name: 'target', label: 'To', type: 'number', unit: '', min: -70, max: 0 },
    {
      name: 'ceilingDbtp',
      label: 'True peak at most',
      type: 'number',
      unit: 'dBTP',
      min: -70,
      max: 0,
      isOptional: true,
    },
    {
      name: 'otherwise',
      label: 'If it is shorter than 0.4 s',
      type: 'choice',
      options: optionsOf(otherwises, (name) => name),
      when: ['to', 'lufs'],
    },
  ],
  defaults: () => ({ to: 'true-peak', target: normaliseMeasures['true-peak'].usual }),
  params: yup.object({
    to: oneOfKeys(normaliseMeasures).required(),
    target: yup.number().min(-70).max(0).required(),
    ceilingDbtp: yup.number().min(-70).max(0),
    otherwise: oneOfKeys(otherwises),
  }),
  refuses: ({ to, otherwise = 'refuse' }) => to !== 'lufs' || otherwise === 'refuse',
  along(params, name) {
    if (name !== 'to') return params;
    const { to } = params;
    const { usual: target } = normaliseMeasures[to];
    return to === 'lufs'
      ? { to, target, ceilingDbtp: USUAL_CEILING_DBTP, otherwise: 'momentary' }
      : { to, target };
  },
  describe: ({ to, target, ceilingDbtp }) =>
    `normalise the ${normaliseMeasures[to].name} to ${plainNumber(target)} ${normaliseMeasures[to].unit}` +
    (ceilingDbtp === undefined ? '' : `, at most ${plainNumber(ceilingDbtp)} dBTP`),
  shape: (before) => before,
  measure: (pcm, { to, ceilingDbtp, otherwise }) => {
    const isPeakAsked = ceilingDbtp !== undefined || otherwise === 'peak';
    return measureLevels(
      pcm,
      isPeakAsked ? [normaliseMeasures[to].fact, 'truePeakDbtp'] : [normaliseMeasures[to].fact],
    );
  },
  peakAtMost: (_, { to, target, ceilingDbtp = Infinity }) =>
    Math.min(ceilingDbtp, to === 'lufs' ? Infinity : target),
  apply(source, params, { figure, tools }) {
    const { target, ceilingDbtp } = params;
    const wanted = wantedGain(params, figure, tools);
    const room =
      ceilingDbtp === undefined || figure.truePeakDbtp === null
        ? Infinity
        : ceilingDbtp - figure.truePeakDbtp;
    if (room < wanted) {
      tools.note({
        code: 'held-back',
        message:
          `The ceiling of ${plainNumber(ceilingDbtp ?? 0)} dBTP holds the level back: changed by ` +
          `${signedDb(room)} instead of ${signedDb(wanted)}, which would be ${plainNumber(target)} ` +
          `${normaliseMeasures[params.to].unit}.`,
      });
    }
    return gain(source, Math.min(wanted, room));
  },
};

/** By how much the level is changed, in dB, before any ceiling. @throws not-legal */
function wantedGain(params: NormaliseParams, figure: WholeLevels, tools: StepTools): number {
  const { to, target, otherwise = 'refuse' } = params;
  const found = figure[normaliseMeasures[to].fact];
  if (found !== null) return target - found;
  if (to !== 'lufs' || otherwise === 'refuse') throw unmeasurable(to);
  const [level, wanted, said] =
    otherwise === 'momentary'
      ? [
          figure.momentaryLufs,
          target,
          `its loudest moment was brought to ${plainNumber(target)} LUFS`,
        ]
      : [
          figure.truePeakDbtp,
          USUAL_CEILING_DBTP,
          `its true peak was brought to ${plainNumber(USUAL_CEILING_DBTP)} dBTP`,
        ];
  const isSilent = level === null || level <= SILENT_DB;
  tools.note({
    code: 'otherwise',
    message: isSilent
      ? 'It is too quiet to have a loudness, and was left as it is.'
      : `It is too short to have a loudness: ${said} instead.`,
  });
  return isSilent ? 0 : wanted - level;
}

function unmeasurable(to: keyof typeof normaliseMeasures): BijouError {
  return new BijouError(
    'not-legal',
    to === 'lufs'
      ? 'The sound is too quiet or too short to have a loudness: it cannot be normalised to one.'
      : 'The sound is silent: no gain gives it a level.',
    to === 'lufs'
      ? 'Choose in that step what is done instead, or take it out for this sound.'
      : 'Take the normalising step out for this sound.',
  );
}
