import * as yup from 'yup';
import { declickDefaults, findClicks, mendClicks, type Click } from '../../dsp/declick';
import { formatTime } from '../../time';
import type { StepKind } from '../types';
import { plural } from '../../words';

export interface DeclickParams {
  /** How many times louder than usual a click is; fewer finds more. */
  threshold?: number | undefined;
}

/** How many places are named one by one. */
const NAMED = 5;

export const declick: StepKind<DeclickParams, Click[]> = {
  kind: 'declick',
  name: 'Declick',
  purpose: 'repair',
  hint: 'finds single clicks and shows them; each is mended from what is around it',
  beginsOff: true,
  params: yup.object({ threshold: yup.number().min(4).max(100) }),
  fields: [
    {
      name: 'threshold',
      label: 'A click is this many times louder than expected',
      type: 'number',
      unit: '×',
      min: 4,
      max: 100,
    },
  ],
  defaults: () => ({ threshold: declickDefaults.threshold }),
  describe: () => 'find clicks and mend them',
  shape: (before) => before,
  measure: (pcm, { threshold = declickDefaults.threshold }) => findClicks(pcm, { threshold }),
  apply(source, _, { figure: clicks, tools }) {
    if (clicks.length > 0) {
      const named = clicks
        .slice(0, NAMED)
        .map(({ startFrame }) => formatTime(startFrame / source.rateHz));
      const more = clicks.length > NAMED ? ` and ${clicks.length - NAMED} more` : '';
      const were = plural(clicks.length, 'click was');
      tools.note({ code: 'mended', message: `${were} mended, at ${named.join(', ')}${more}.` });
    }
    return mendClicks(source, clicks);
  },
};
