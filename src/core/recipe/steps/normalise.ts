import * as yup from 'yup';
import { gain } from '../../dsp/level';
import { BijouError } from '../../errors';
import { measureLevels, type LevelName, type WholeLevels } from '../../measure/levels';
import { plainNumber, signedDb } from '../../tradeNames';
import type { StepKind } from '../types';

/** What is brought to the target: sample peak in dBFS, true peak in dBTP, loudness in LUFS. */
const measures = {
  peak: { name: 'peak', unit: 'dBFS' },
  'true-peak': { name: 'true peak', unit: 'dBTP' },
  lufs: { name: 'loudness', unit: 'LUFS' },
} as const;

const levelOf: Record<keyof typeof measures, LevelName> = {
  peak: 'peakDbfs',
  'true-peak': 'truePeakDbtp',
  lufs: 'lufs',
};

export interface NormaliseParams {
  to: keyof typeof measures;
  target: number;
  /** True peak in dBTP that is not gone beyond, whatever the target. */
  ceilingDbtp?: number | undefined;
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
      options: Object.entries(measures).map(([value, { name, unit }]) => ({
        value,
        label: `${name} (${unit})`,
      })),
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
  ],
  defaults: () => ({ to: 'true-peak', target: -1 }),
  params: yup.object({
    to: yup
      .mixed<keyof typeof measures>()
      .oneOf(Object.keys(measures) as (keyof typeof measures)[])
      .required(),
    target: yup.number().min(-70).max(0).required(),
    ceilingDbtp: yup.number().min(-70).max(0),
  }),
  describe: ({ to, target, ceilingDbtp }) =>
    `normalise the ${measures[to].name} to ${plainNumber(target)} ${measures[to].unit}` +
    (ceilingDbtp === undefined ? '' : `, at most ${plainNumber(ceilingDbtp)} dBTP`),
  shape: (before) => before,
  measure: (pcm, { to, ceilingDbtp }) =>
    measureLevels(pcm, ceilingDbtp === undefined ? [levelOf[to]] : [levelOf[to], 'truePeakDbtp']),
  apply(source, { to, target, ceilingDbtp }, { figure, tools }) {
    const found = figure[levelOf[to]];
    if (found === null) throw silent(to);
    const wanted = target - found;
    const room =
      ceilingDbtp === undefined || figure.truePeakDbtp === null
        ? Infinity
        : ceilingDbtp - figure.truePeakDbtp;
    if (room < wanted) {
      tools.note({
        code: 'held-back',
        message:
          `The ceiling of ${plainNumber(ceilingDbtp ?? 0)} dBTP holds the level back: changed by ` +
          `${signedDb(room)} instead of ${signedDb(wanted)}.`,
      });
    }
    return gain(source, Math.min(wanted, room));
  },
};

function silent(to: keyof typeof measures): BijouError {
  return new BijouError(
    'not-legal',
    to === 'lufs'
      ? 'The sound is too quiet or too short to have a loudness: it cannot be normalised to one.'
      : 'The sound is silent: no gain gives it a level.',
    'Take the normalising step out for this sound.',
  );
}
