import * as yup from 'yup';
import { gain } from '../../dsp/level';
import { deepestOf, depthDb, limited } from '../../dsp/limiter';
import { measureLevels } from '../../measure/levels';
import { plainNumber, signedDb } from '../../tradeNames';
import type { StepKind } from '../types';
import { oneOfKeys, optionsOf } from './choice';
import { USUAL_CEILING_DBTP } from './normalise';

/** What is turned down when something is too loud. */
const ways = {
  moments: 'only the loud moments (limiter)',
  all: 'everything, by the same gain',
} as const;

export interface LimitParams {
  /** True peak in dBTP that is not gone beyond. */
  ceilingDbtp: number;
  how: keyof typeof ways;
  /** Milliseconds in which the level comes back by 10 dB; only for `moments`. */
  releaseMs?: number | undefined;
}

/** For `moments`: units above the ceiling. For `all`: the true peak. */
type Found = { deepest: number } | { truePeakDbtp: number | null };

const RELEASE_MS = 100;

export const usualLimit: LimitParams = {
  ceilingDbtp: USUAL_CEILING_DBTP,
  how: 'moments',
  releaseMs: RELEASE_MS,
};

export const limit: StepKind<LimitParams, Found> = {
  kind: 'limit',
  name: 'Limit',
  purpose: 'level',
  hint: 'holds the true peak below a ceiling; what is quieter stays the same to the bit',
  fields: [
    {
      name: 'ceilingDbtp',
      label: 'True peak at most',
      type: 'number',
      unit: 'dBTP',
      min: -60,
      max: 0,
    },
    {
      name: 'how',
      label: 'By turning down',
      type: 'choice',
      options: optionsOf(ways, (name) => name),
    },
    {
      name: 'releaseMs',
      label: 'Comes back by 10 dB in',
      type: 'number',
      unit: 'ms',
      min: 1,
      max: 5_000,
      when: ['how', 'moments'],
    },
  ],
  defaults: () => usualLimit,
  params: yup.object({
    ceilingDbtp: yup.number().min(-60).max(0).required(),
    how: oneOfKeys(ways).required(),
    releaseMs: yup.number().min(1).max(5_000),
  }),
  describe: ({ ceilingDbtp, how }) =>
    `hold the true peak at ${plainNumber(ceilingDbtp)} dBTP or below, ` +
    (how === 'moments' ? 'the loud moments turned down' : 'all of it turned down'),
  shape: (before) => before,
  peakAtMost: (before, { ceilingDbtp }) => Math.min(before, ceilingDbtp),
  rereads: ({ how }, loop) => how === 'moments' && loop !== null,
  async measure(pcm, params) {
    if (params.how === 'moments') return { deepest: await deepestOf(pcm, limitOf(params)) };
    const { truePeakDbtp } = await measureLevels(pcm, ['truePeakDbtp']);
    return { truePeakDbtp };
  },
  apply(source, params, { figure, tools }) {
    const note = (message: string) => tools.note({ code: 'limited', message });
    if ('deepest' in figure) {
      const { deepest } = figure;
      if (deepest > 0) note(`The loudest moments were turned down by up to ${decibels(deepest)}.`);
      return limited(source, limitOf(params), deepest);
    }
    const room = Math.min(0, params.ceilingDbtp - (figure.truePeakDbtp ?? -Infinity));
    if (room < 0)
      note(`The whole sound was changed by ${signedDb(room)} to stay below full scale.`);
    return gain(source, room);
  },
};

function decibels(deepest: number): string {
  return `${plainNumber(depthDb(deepest))} dB`;
}

function limitOf({ ceilingDbtp, releaseMs = RELEASE_MS }: LimitParams) {
  return { ceilingDbtp, releaseMs };
}
