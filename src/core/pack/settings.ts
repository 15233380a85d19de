import type { StageChoices } from '../host/filter/choices';
import type { Call } from './calls/calls';

/** What people have decided about the pack of one destination. What is left out is as usual. */
export interface PackSettings {
  /** The project's name where nothing is said. */
  title?: string | undefined;
  /** Values of the layout's fields, by their ids. */
  fields?: Record<string, string | number> | undefined;
  /** An icon that somebody has given; one is drawn where nobody has. */
  icon?: { sha256: string; bytes: number } | undefined;
  /** The calls; made of names where nobody has changed them. */
  calls?: Call[] | undefined;
  /** What was set on the filter stage, sounds by their paths in this part of the pack. */
  stage?: StageChoices | undefined;
}
