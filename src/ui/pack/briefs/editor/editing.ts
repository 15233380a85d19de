import type { BriefText } from '@/core/brief/schema';
import type { ErrorFacts } from '@/core/errors';

/** What parts of the editor do: read the draft, and put something else in its place. */
export interface Editing {
  text: BriefText;
  put: (change: Partial<BriefText>) => void;
  /** What is wrong, and at which field. */
  problem: ErrorFacts | null;
}
