import * as yup from 'yup';
import { gain } from '../../dsp/level';
import { BijouError } from '../../errors';
import { measureLevels, type WholeLevels } from '../../measure/levels';
import { plainNumber, signedDb } from '../../tradeNames';
import type { StepKind } from '../types';

/** What is brought to the target: sample peak in dBFS, true peak in dBTP, loudness in LUFS. */
const measures = {
  peak: { name: 'peak', unit: 'dBFS' },
  'true-peak': { name: 'true peak', unit: 'dBTP' },
  lufs: { name: 'loudness', unit: 'LUFS' },
} as const;

export interface NormaliseParams {
  to: keyof typeof measures;
  target: number;
  /** True peak in dBTP that is not gone beyond, whatever the target. */
  ceilingDbtp?: number | undefined;
}

export const normalise: StepKind<NormaliseParams, WholeLevels> = {
  kind: 'normalise',
  name: 'Normalise',
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
  measure: measureLevels,
  apply(pcm, { to, target, ceilingDbtp }, { figure, tools }) {
    const found = { peak: figure.peakDbfs, 'true-peak': figure.truePeakDbtp, lufs: figure.lufs }[
      to
    ];
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
    return gain(pcm, Math.min(wanted, room));
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
