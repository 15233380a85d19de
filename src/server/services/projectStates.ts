import type { Job, ProjectNews, ProjectState, WorkCount } from '@/wire';
import type { Context } from '../context';
import { jobKinds } from '../jobs/kinds';
import { RANK } from '../jobs/ranks';
import type { CellService } from './cells';
import type { EditService } from './edits';
import type { IntakeService } from './intakes';
import { projectById } from './lookUp';
import type { RehearsalService } from './rehearsals';

/** What screens know of a project: all of it once, then what is other than they know. */
export function projectStateService(
  { db, briefs }: Pick<Context, 'db' | 'briefs'>,
  cells: Pick<CellService, 'cells'>,
  edits: Pick<EditService, 'history'>,
  intakes: Pick<IntakeService, 'summary'>,
  rehearsals: Pick<RehearsalService, 'of'>,
  parts: PageParts,
) {
  /** How much of what people wait for there is, by kind. */
  function work(projectId: number): WorkCount[] {
    const open = new Map(db.jobs.counts(projectId).map((one) => [one.kind, one.open]));
    // What is to be built and is not queued yet: a file each at least.
    const ordered = db.orders.count(projectId);
    if (ordered > 0) open.set('encode', (open.get('encode') ?? 0) + ordered);
    return [...open]
      .filter(([kind]) => isShown(kind))
      .map(([kind, count]) => {
        const { verb, noun } = wordsOf(kind);
        return { kind, verb, noun, open: count };
      });
  }

  /** What is small enough to be told with every change. */
  function around(projectId: number) {
    return {
      project: projectById(db, projectId),
      work: work(projectId),
      running: db.jobs.running(projectId).filter(({ kind }) => isShown(kind)),
      intake: intakes.summary(projectId),
      history: edits.history(projectId),
      trials: db.trials.news(projectId),
      packs: db.madePacks.news(projectId),
      rehearsals: rehearsals.of(projectId),
      briefsVersion: db.ownBriefs.version(projectId),
      revision: db.sounds.revision(),
    };
  }

  /** What there is one of, with what there are thousands of. */
  const stateWith = (
    projectId: number,
    lines: Pick<ProjectState, 'sounds' | 'cells' | 'rest'>,
  ): ProjectState => ({
    ...around(projectId),
    ...lines,
    briefs: [...briefs(projectId)],
    layout: db.projects.layout(projectId),
  });

  /** The next sounds behind one, and what is left behind those. */
  function partOf(projectId: number, after: number, most: number) {
    const sounds = db.sounds.part(projectId, after, most);
    const last = sounds.at(-1)?.id ?? after;
    const count = sounds.length < most ? 0 : db.sounds.countAfter(projectId, last);
    return { sounds, rest: count === 0 ? null : { after: last, count } };
  }

  return {
    /** Everything that the stations show. @throws not-found */
    state: (projectId: number): ProjectState =>
      stateWith(projectId, {
        sounds: db.sounds.ofProject(projectId),
        cells: cells.cells(projectId),
        rest: null,
      }),
    /** The same with the first sounds of very many: a page shows them while it fetches the rest. @throws not-found */
    firstPart(projectId: number): ProjectState {
      const { sounds, rest } = partOf(projectId, 0, parts.first);
      const ids = rest ? sounds.map(({ id }) => id) : undefined;
      return stateWith(projectId, { sounds, rest, cells: cells.cells(projectId, ids) });
    },
    /** What is other than at `known.revision`, with the next part where all behind a sound is missing. @throws not-found */
    news(projectId: number, known: Known): ProjectNews {
      const { revision, after, briefsVersion } = known;
      const { changed, gone } = db.sounds.since(projectId, revision);
      const more =
        after === undefined ? { sounds: [], rest: null } : partOf(projectId, after, parts.next);
      const others = db.cells.since(projectId, revision);
      const told = [...changed, ...more.sounds];
      const ids = new Set(told.map(({ id }) => id));
      const about = around(projectId);
      const hasOther = briefsVersion !== undefined && briefsVersion !== about.briefsVersion;
      return {
        ...about,
        briefs: hasOther ? [...briefs(projectId)] : null,
        rest: more.rest,
        changed: told,
        gone,
        cells: [
          ...db.cells.ofSounds([...ids]),
          ...others.changed.filter(({ soundId }) => !ids.has(soundId)),
        ],
        goneCells: others.gone,
      };
    },
    /** Queued and running work that people wait for. */
    open: (projectId: number): Job[] => db.jobs.open(projectId).filter(({ kind }) => isShown(kind)),
  };
}

/** What somebody knows who asks for news. */
interface Known {
  revision: number;
  /** Up to which sound, in a project of very many. */
  after?: number;
  /** Which destinations; without it they are not told. */
  briefsVersion?: string;
}

/** Sounds that a page holds when it comes, and that follow at a time. */
export interface PageParts {
  first: number;
  next: number;
}

/** A sound with six cells takes about 0.6 kB of a page, and 0.2 ms to be told the first time. */
export const usualParts: PageParts = { first: 600, next: 1_000 };

/** Of a job of a newer Bijou. */
const unknown = { verb: 'working on', noun: 'thing', rank: RANK.usual } as const;
const wordsOf = (kind: string) => jobKinds.find((one) => one.kind === kind) ?? unknown;
/** Whether people wait for it. */
const isShown = (kind: string) => wordsOf(kind).rank !== RANK.quiet;
