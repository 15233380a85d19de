import { USUAL_CEILING_DBTP } from '../recipe/steps/normalise';
import type { Step } from '../recipe/types';

/** How a stereo sound becomes mono where a brief wants mono. */
export const monoChoices = ['mix', 'left', 'right'] as const;
export type MonoChoice = (typeof monoChoices)[number];

/** What becomes of what lies above full scale; each as it is said once it is chosen. */
export const clippings = {
  limit: (ceiling: string) => `The loud moments are turned down to ${ceiling}, as chosen.`,
  lower: (ceiling: string) => `All of it is turned down to ${ceiling}, as chosen.`,
  keep: () => 'What lies above full scale is cut off, as chosen.',
} as const;
export type ClippingChoice = keyof typeof clippings;
export const clippingChoices = Object.keys(clippings) as ClippingChoice[];

/** What a person decided for one sound and one brief. */
export interface Choices {
  mono?: MonoChoice | undefined;
  clipping?: ClippingChoice | undefined;
  /** How far it is turned down, in dBTP; lower where a codec lifts it again. */
  ceilingDbtp?: number | undefined;
  /** A level that the conversion changes is brought about once more behind it. */
  levelBehind?: boolean | undefined;
  /** All of it repeats, where a loop is asked for and none is marked. */
  isWholeLoop?: boolean | undefined;
  /** Of the rates that the brief takes, another one than it prefers, in Hz. */
  rateHz?: number | undefined;
  /** Mono though the brief takes more; `mono` says how. */
  isMono?: boolean | undefined;
  /** It ends after so many seconds, with a short fade. */
  seconds?: number | undefined;
  /** Settings of the writers, in place of the brief's, by its files. */
  settings?: Record<string, Record<string, number>> | undefined;
  /** Its name there, without the ending, in place of the brief's pattern. */
  name?: string | undefined;
  /** Stands in front of its name, to move it in sorted lists. */
  prefix?: string | undefined;
  /** The slots of the layout that it fills, by their paths. */
  slots?: string[] | undefined;
}

/** What is other about choices; null takes one back. */
export type ChangedChoices = { [Name in keyof Choices]: Choices[Name] | null };

/** Choices with what is other about them. */
export function changedChoices(before: Choices, change: ChangedChoices): Choices {
  const all = Object.entries({ ...before, ...change });
  return Object.fromEntries(all.filter(([, value]) => value != null));
}

/** The step that does what was chosen about what lies above full scale; null where it is let be. */
export function clippingStep(
  choice: ClippingChoice | undefined,
  ceilingDbtp = USUAL_CEILING_DBTP,
): Step | null {
  if (choice !== 'limit' && choice !== 'lower') return null;
  const how = choice === 'limit' ? 'moments' : 'all';
  return { kind: 'limit', on: true, params: { ceilingDbtp, how } };
}
