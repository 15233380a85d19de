import type { Brief } from '@/core/brief/schema';
import type { Intake, TableLayout } from './collect';
import type { History } from './history';
import type { Cell } from './pack';
import type { RehearsalSummary } from './rehearsals';
import type { Sound } from './sounds';
import type { Job, WorkCount } from './work';

export interface Project {
  id: number;
  name: string;
  createdAt: string;
}

/** One that was deleted, and can be brought back. */
export interface RemovedProject extends Project {
  removedAt: string;
}

/** What every station shows of a project; what only one of them needs it asks for itself. */
export interface ProjectState {
  project: Project;
  /** Those that its sounds can be sent to. */
  briefs: Brief[];
  /** Another one when they have changed. */
  briefsVersion: string;
  sounds: Sound[];
  /** Which sound goes where, and how far that is. */
  cells: Cell[];
  /** What is queued or running, by kind, as far as people wait for it. */
  work: WorkCount[];
  /** Of that what is being done right now. */
  running: Job[];
  /** How many are kept, and another text whenever one of them has come further. */
  trials: { count: number; version: string };
  /** Packs that were made, likewise. */
  packs: { count: number; version: string };
  /** What hosts said of what was built for them. */
  rehearsals: RehearsalSummary[];
  intake: Intake | null;
  history: History;
  layout: TableLayout;
  revision: number;
  /** Sounds that are not in it yet, in a project of very many; null when all are. */
  rest: Rest | null;
}

/** What is fetched after the first part of a state: so many sounds, with higher ids than one. */
interface Rest {
  after: number;
  count: number;
}

/** What is other than at an earlier revision. */
export interface ProjectNews extends Omit<ProjectState, 'briefs' | 'sounds' | 'layout'> {
  /** Where they are other than the one who asks knows. */
  briefs: Brief[] | null;
  /** And those of the next part, where the rest of a state is asked for. */
  changed: Sound[];
  /** Ids of sounds that are in no list any more. */
  gone: number[];
  /** All that these sounds have now, and others that have changed themselves. */
  cells: Cell[];
  /** Ids of those that are in no list any more. */
  goneCells: number[];
}
