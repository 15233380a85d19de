import { demandsOf, type Demand } from './demands';
import { completeBrief } from './complete';
import type { Brief, BriefText } from './schema';

/** A brief as it is written, without what its writers know of it. */
export function briefTextOf({ files, ...brief }: Brief): BriefText {
  return {
    ...brief,
    files: files.map((file) => {
      const text: Partial<typeof file> = { ...file };
      delete text.container;
      delete text.codec;
      delete text.extension;
      delete text.holdsBeyond;
      return text as BriefText['files'][number];
    }),
  };
}

/** One demand of two briefs. */
export interface DemandPair {
  /** What tells it from all others. */
  key: string;
  label: string;
  /** null where one of them has no such file. */
  here: Demand | null;
  there: Demand | null;
}

/** Where two briefs differ, demand by demand; files that both have go by their id, others by their place. */
export function differences(here: Brief, there: Brief): DemandPair[] {
  const [own, other] = [demandsByKey(here, there), demandsByKey(there, here)];
  const keys = [...new Set([...own.keys(), ...other.keys()])];
  return keys
    .map((key) => {
      const [a, b] = [own.get(key) ?? null, other.get(key) ?? null];
      return { key, label: (a ?? b)!.label, here: a, there: b };
    })
    .filter(({ here: a, there: b }) => a?.text !== b?.text || a?.freedom !== b?.freedom);
}

function demandsByKey(brief: Brief, beside: Brief): Map<string, Demand> {
  const isOne = brief.files.length === 1 && beside.files.length === 1;
  return new Map(
    demandsOf(brief).map((demand) => {
      const file = demand.fileId === null ? '' : isOne ? 'file' : demand.fileId;
      return [`${file} ${demand.demand}`, demand];
    }),
  );
}

/** A brief of somebody's own, made of another one or of what somebody wrote, under an id and title of its own. */
export function ownBrief(text: BriefText, id: string, title: string): BriefText {
  const own = { ...text, id, title, version: 1 };
  completeBrief(own);
  return own;
}
