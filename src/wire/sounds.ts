import type { ErrorFacts } from '@/core/errors';
import type { Warning } from '@/core/formats/types';
import type { RawDescription } from '@/core/formats/raw/reader';
import type { Join, PlacedPart } from '@/core/join/plan';
import type { SeamFigures } from '@/core/loop/seam';
import type { ListedFacts } from '@/core/measure/probe';
import type { Worry } from '@/core/measure/worries';
import type { Outcome } from '@/core/recipe/outcome';
import type { Recipe } from '@/core/recipe/types';
import type { Tempo } from '@/core/tempo';

export type SoundState = 'reading' | 'ready' | 'refused';

/** A sound with what is known of its source. */
export interface Sound {
  id: number;
  projectId: number;
  name: string;
  /** Name of the file as it came in. */
  fileName: string;
  sourceSha256: string;
  recipe: Recipe;
  state: SoundState;
  /** Why it was refused. */
  error: ErrorFacts | null;
  addedAt: string;
  removedAt: string | null;
  /** Of the source. */
  bytes: number;
  facts: ListedFacts | null;
  /** How the source is read when it has no header. */
  raw: RawDescription | null;
  warnings: Warning[];
  /** What its reader and its measures give reason to worry about. */
  worries: ListedWorry[];
  /** Why its recipe cannot be followed on its source. */
  recipeProblem: ErrorFacts | null;
  /** What was measured behind its recipe; null while nobody has. */
  outcome: Outcome | null;
  /** Of the loop that it has now: its recipe's, else its file's; null where none is, or none was measured yet. */
  seam: SeamFigures | null;
  /** Groups from outer to inner, joined with "/"; "" for none. */
  group: string;
  labels: string[];
  note: string;
  /** As in "en"; null where nobody has said. */
  language: string | null;
  /** Folder or archive that the file stood in; "" where none is known. */
  folder: string;
  /** The sound that this file may replace, while nobody has decided. */
  replaces: number | null;
  /** Bars and beats, where somebody has set them. */
  tempo: Tempo | null;
  /** For a sound that was joined of others: of which, and how. */
  join: Join | null;
  /** What its present source was joined of. */
  joined: Joined | null;
  revision: number;
}

/** What a joined sound was made of when it was made. */
export interface Joined {
  /** Tells whether it is still what its parts would make. */
  key: string;
  placed: Pick<PlacedPart, 'name' | 'startFrame' | 'frames'>[];
}

export interface ListedWorry extends Worry {
  state: 'open' | 'cured' | 'set-aside';
  /** Why it was set aside. */
  note?: string;
}

/** A worry that somebody has looked at and let be, for these bytes. */
export interface SetAside {
  code: string;
  note: string;
  sourceSha256: string;
}

/** What people can change of a sound, alone or of many at once. */
export interface SoundEdit {
  soundId: number;
  name?: string;
  group?: string;
  labels?: string[];
  note?: string;
  language?: string | null;
  tempo?: Tempo | null;
  removed?: boolean;
}
