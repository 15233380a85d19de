import * as yup from 'yup';
import { declick as declickPcm, declickDefaults, type Mended } from '../../dsp/declick';
import type { PcmStream } from '../../pcm/pcm';
import { formatTime } from '../../time';
import type { StepKind, StepTools } from '../types';

export interface DeclickParams {
  /** How many times louder than usual a click is; fewer finds more. */
  threshold?: number | undefined;
}

export const declick: StepKind<DeclickParams> = {
  kind: 'declick',
  name: 'Declick',
  params: yup.object({ threshold: yup.number().min(4).max(100) }),
  describe: () => 'find clicks and mend them',
  shape: (before) => before,
  apply(pcm, { threshold = declickDefaults.threshold }, { tools }) {
    const places: Mended[] = [];
    const options = { ...declickDefaults, threshold };
    const mended = declickPcm(pcm, options, (place) => places.push(place));
    return reporting(mended, places, tools);
  },
};

/** How many places are named one by one. */
const NAMED = 5;

function reporting(pcm: PcmStream, places: readonly Mended[], tools: StepTools): PcmStream {
  async function* blocks() {
    yield* pcm.blocks;
    if (places.length === 0) return;
    const named = [...places]
      .sort((a, b) => a.startFrame - b.startFrame)
      .slice(0, NAMED)
      .map(({ startFrame }) => formatTime(startFrame / pcm.rateHz));
    const more = places.length > NAMED ? ` and ${places.length - NAMED} more` : '';
    const count = `${places.length} ${places.length === 1 ? 'click was' : 'clicks were'}`;
    tools.note({ code: 'mended', message: `${count} mended, at ${named.join(', ')}${more}.` });
  }
  return { ...pcm, blocks: blocks() };
}
