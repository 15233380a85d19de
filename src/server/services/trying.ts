import { cpus, platform, release } from 'node:os';
import type { Candidate } from '@/core/compare/candidates/candidate';
import { quickestFirst } from '@/core/compare/candidates/order';
import { planTrial } from '@/core/compare/plan';
import type { TrialFigures } from '@/core/compare/trial';
import { USUAL_RUNS, type WorkFigures } from '@/core/compare/work';
import { BijouError, errorFacts, type ErrorFacts } from '@/core/errors';
import { shapeAfter } from '@/core/recipe/recipe';
import { shapeOf } from '@/core/recipe/types';
import { BIJOU_VERSION } from '@/core/version';
import type { Machine } from '@/wire';
import type { Context } from '../context';
import type { TrialRow } from '../db/trials';
import { RANK } from '../jobs/ranks';
import { soundBasis } from './bases';
import type { EncodingService } from './encodings';
import { projectById, readSound } from './lookUp';
import { comparisonById } from './trialStates';

/** Runs of a project that are kept; what only older ones need goes. */
const MOST_KEPT = 20;
/** More than anybody looks at. */
const MOST_TRIALS = 1_000;

/** Candidates that are tried on sounds: made, measured, timed and kept. */
export function tryingService(
  { db, store, changed, pump, cancel }: Context,
  encodings: EncodingService,
) {
  /**
   * Tries every candidate on every sound. What cannot be made says so at once; the others are made in the
   * background, unless there is such a file already.
   * @throws bad-setting for nothing at all, and for too much
   */
  function begin(
    projectId: number,
    soundIds: readonly number[],
    candidates: readonly Candidate[],
    runs = USUAL_RUNS,
  ): number {
    projectById(db, projectId);
    const known = soundIds.filter((id) => db.sounds.byId(id)?.projectId === projectId);
    if (known.length === 0) throw nothing('No sound is chosen.', 'Choose at least one.');
    if (candidates.length === 0) throw nothing('No candidate is chosen.', 'Choose a set of them.');
    if (known.length * candidates.length > MOST_TRIALS) throw tooMany();
    const id = db.transaction(() => {
      const comparisonId = db.trials.begin(projectId, runs, thisMachine());
      const all = known.flatMap((soundId) =>
        candidates.map((candidate) => ({ soundId, candidate })),
      );
      const plans = new Map(quickestFirst(all).map((one) => [one, planned(projectId, one)]));
      for (const one of all) db.trials.add({ comparisonId, ...one, ...plans.get(one)! });
      db.trials.setTimingDue(comparisonId, true);
      for (const old of db.trials.dropOld(projectId, MOST_KEPT)) db.jobs.drop('decoding', old);
      encodings.sweep();
      queueMeasuring(comparisonId);
      changed(projectId);
      return comparisonId;
    });
    pump();
    return id;
  }

  function planned(
    projectId: number,
    { soundId, candidate }: Pick<TrialRow, 'soundId' | 'candidate'>,
  ): Pick<TrialRow, 'encodingId' | 'how' | 'basis' | 'error'> {
    try {
      const sound = readSound(db, projectId, soundId);
      const { plan, settings, reference, changes } = planTrial(sound, candidate);
      const encodingId = encodings.wanted(projectId, plan, RANK.compared);
      const {
        rateHz,
        channelCount: channels,
        frames,
      } = shapeAfter(reference, shapeOf(sound.facts));
      const how = {
        ...{ settings, changes, reference },
        sound: {
          seconds: frames / rateHz,
          ...{ sampleRateHz: rateHz, channels },
          sourceBytes: sound.facts.bytes,
        },
      };
      return { encodingId, how, basis: soundBasis(sound), error: null };
    } catch (error) {
      if (!(error instanceof BijouError)) throw error;
      return { encodingId: null, how: null, basis: null, error: errorFacts(error) };
    }
  }

  /** Has those measured whose file is there. */
  function queueMeasuring(comparisonId: number): void {
    const { projectId } = comparisonById(db, comparisonId);
    for (const trial of db.trials.of(comparisonId)) {
      const encoding = trial.encodingId ? db.encodings.byId(trial.encodingId) : undefined;
      if (encoding?.state === 'done' && isOpen(trial)) queueTrial(projectId, trial.id);
    }
    queueTiming(comparisonId);
  }

  const queueTrial = (projectId: number, id: number) =>
    db.jobs.add(projectId, 'trial', id, RANK.measured);

  /** Once all are measured that can be. What somebody stopped is timed when they say so. */
  function queueTiming(comparisonId: number, isAsked = false): void {
    const { projectId } = comparisonById(db, comparisonId);
    const { open, cancelled, untimed } = db.trials.standing(comparisonId);
    const isStopped = cancelled > 0 && !isAsked;
    const isNotDue = open > 0 || isStopped || untimed === 0;
    if (isNotDue || db.jobs.isOpen('decoding', comparisonId)) return;
    db.jobs.add(projectId, 'decoding', comparisonId);
  }

  /** A file is made, or never will be: those that waited for it go on. Call within what writes that down. */
  function fileSettled(encodingId: number): void {
    for (const trial of db.trials.waitingFor(encodingId)) {
      const { projectId } = comparisonById(db, trial.comparisonId);
      const isMade = db.encodings.byId(encodingId)?.state === 'done';
      if (isMade && isOpen(trial)) queueTrial(projectId, trial.id);
      else queueTiming(trial.comparisonId);
      changed(projectId);
    }
  }

  /** The same of very many that were cancelled. */
  function filesSettled(encodingIds: readonly number[]): void {
    for (const id of db.trials.waitingAmong(encodingIds)) queueTiming(id);
  }

  const isOpen = (trial: TrialRow) =>
    !trial.figures && !trial.error && !db.jobs.isOpen('trial', trial.id);

  function measured(id: number, figures: TrialFigures): void {
    if (!db.trials.byId(id)) return;
    db.trials.setFigures(id, figures);
    settled(id);
  }

  function failed(id: number, error: ErrorFacts): void {
    if (!db.trials.byId(id)) return;
    db.trials.setError(id, error);
    settled(id);
  }

  /** Nothing more is done for a trial for now. */
  function settled(id: number): void {
    const trial = db.trials.byId(id);
    // Its own job is about to end.
    if (trial) db.afterCommit(() => db.transaction(() => queueTiming(trial.comparisonId)));
    if (trial) db.afterCommit(pump);
  }

  /** The files of a run that are to be timed; null when there are none. */
  function toTime(comparisonId: number) {
    const row = db.trials.comparison(comparisonId);
    const ready = db.trials.of(comparisonId).flatMap((trial) => {
      const encoding = trial.encodingId ? db.encodings.byId(trial.encodingId) : undefined;
      const plan = encoding && db.encodings.planOf(encoding.id);
      if (!trial.figures || !encoding?.sha256 || !plan || !encodings.isThere(encoding)) return [];
      const { writer, settings } = plan;
      const { sha256 } = encoding;
      const raw = db.sources.rawOf(sha256);
      const file = { path: store.path(sha256), raw, writer, settings };
      return [{ id: trial.id, file }];
    });
    if (!row || ready.length === 0) return null;
    return {
      runs: row.runs,
      trialIds: ready.map(({ id }) => id),
      files: ready.map(({ file }) => file),
    };
  }

  /** Which files of a run are timed; null for a run that is not kept. */
  function timingBasis(comparisonId: number): string | null {
    const isKept = db.trials.comparison(comparisonId) !== undefined;
    return isKept ? db.trials.measuredFiles(comparisonId) : null;
  }

  function timed(
    comparisonId: number,
    trialIds: readonly number[],
    costs: readonly WorkFigures[],
  ): void {
    trialIds.forEach((id, i) => db.trials.setWork(id, costs[i]!));
    timingOver(comparisonId);
  }

  /** It is timed, or not, and nobody waits for it any more. */
  function timingOver(comparisonId: number): void {
    db.trials.setTimingDue(comparisonId, false);
  }

  /** Runs that should be timed and for which nothing else is left to be done: a crash came between. */
  function untimed(): { id: number; projectId: number }[] {
    return db.trials.timingDue().filter(({ id }) => {
      const { open, cancelled } = db.trials.standing(id);
      return open === 0 && cancelled === 0;
    });
  }

  /** Times the files of a run anew: the machine was busy. @throws not-found */
  function timeAgain(comparisonId: number): void {
    const { projectId } = comparisonById(db, comparisonId);
    db.transaction(() => {
      for (const { id } of db.trials.of(comparisonId)) db.trials.setWork(id, null);
      db.trials.setTimingDue(comparisonId, true);
      queueTiming(comparisonId, true);
      changed(projectId);
    });
    pump();
  }

  /** The same candidates on the same sounds, as they are now. @throws not-found */
  function again(comparisonId: number): number {
    const { projectId, runs } = comparisonById(db, comparisonId);
    const all = db.trials.of(comparisonId);
    const sounds = [...new Set(all.map(({ soundId }) => soundId))];
    const candidates = [
      ...new Map(all.map(({ candidate }) => [JSON.stringify(candidate), candidate])).values(),
    ];
    return begin(projectId, sounds, candidates, runs);
  }

  /** Stops what is not finished of a run; what is measured stays. @throws not-found */
  function stop(comparisonId: number): void {
    comparisonById(db, comparisonId);
    for (const trial of db.trials.of(comparisonId)) {
      if (trial.figures || trial.error) continue;
      for (const job of [db.jobs.of('trial', trial.id), encodeJobOf(trial)]) {
        if (job !== undefined) cancel(job);
      }
    }
    const timing = db.jobs.of('decoding', comparisonId);
    if (timing !== undefined) cancel(timing);
    timingOver(comparisonId);
  }

  /** What makes its file, unless somebody else waits for that. */
  const encodeJobOf = ({ encodingId, comparisonId }: TrialRow) =>
    encodingId === null || encodings.isWantedElse(encodingId, 'trials', comparisonId)
      ? undefined
      : db.jobs.of('encode', encodingId);

  /** Forgets a run, with the files that nobody else wants. @throws not-found */
  function forget(comparisonId: number): void {
    const { projectId } = comparisonById(db, comparisonId);
    stop(comparisonId);
    db.transaction(() => {
      db.trials.forget(comparisonId);
      encodings.sweep();
      changed(projectId);
    });
  }

  return {
    ...{ begin, again, timeAgain, stop, forget },
    ...{
      fileSettled,
      filesSettled,
      timingBasis,
      measured,
      failed,
      settled,
      toTime,
      timed,
      timingOver,
      untimed,
    },
  };
}

export type TryingService = ReturnType<typeof tryingService>;

function thisMachine(): Machine {
  const [first] = cpus();
  return {
    processor: first?.model.trim() ?? 'unknown processor',
    cores: cpus().length,
    system: `${platform()} ${release()}`,
    node: process.version,
    bijou: BIJOU_VERSION,
  };
}

function nothing(message: string, hint: string): BijouError {
  return new BijouError('bad-setting', message, hint);
}

function tooMany(): BijouError {
  return new BijouError(
    'too-large',
    `That would be more than ${MOST_TRIALS} trials.`,
    'Choose fewer sounds, or fewer candidates: a few of each kind say as much.',
  );
}
