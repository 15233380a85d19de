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
) {
  /** How much of what people wait for there is, by kind. */
  function work(projectId: number): WorkCount[] {
    return db.jobs
      .counts(projectId)
      .filter(({ kind }) => isShown(kind))
      .map(({ kind, open }) => {
        const { verb, noun } = wordsOf(kind);
        return { kind, verb, noun, open };
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

  let latest: { projectId: number; written: number; lines: Lines } | null = null;
  /** What there are thousands of. Until something is written, who asks again gets the same objects. */
  function lines(projectId: number): Lines {
    const written = db.written();
    if (latest?.projectId !== projectId || latest.written !== written) {
      const found = { sounds: db.sounds.ofProject(projectId), cells: cells.cells(projectId) };
      latest = { projectId, written, lines: found };
    }
    return latest.lines;
  }

  return {
    /** Everything that the stations show. @throws not-found */
    state: (projectId: number): ProjectState => ({
      ...around(projectId),
      ...lines(projectId),
      briefs: [...briefs(projectId)],
      layout: db.projects.layout(projectId),
    }),
    /** What is other than at `revision`. @throws not-found */
    news(projectId: number, revision: number): ProjectNews {
      const { changed, gone } = db.sounds.since(projectId, revision);
      const others = db.cells.since(projectId, revision);
      const ids = new Set(changed.map(({ id }) => id));
      return {
        ...around(projectId),
        changed,
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

type Lines = Pick<ProjectState, 'sounds' | 'cells'>;

/** Of a job of a newer Bijou. */
const unknown = { verb: 'working on', noun: 'thing', rank: RANK.usual } as const;
const wordsOf = (kind: string) => jobKinds.find((one) => one.kind === kind) ?? unknown;
/** Whether people wait for it. */
const isShown = (kind: string) => wordsOf(kind).rank !== RANK.quiet;
